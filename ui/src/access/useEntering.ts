import { useRouter } from 'vue-router'
import { letIn } from '../api/door'
import { readAgain } from '../api/queries'
import type { Schemas } from '../api/client'
import { role } from '../shared/settings'

// useEntering lets somebody in who has shown who they are: what the page held before is
// read again by what they may see.
export function useEntering() {
  const router = useRouter()
  return async (me: Schemas['Me'], to?: string) => {
    if (me.role) role.value = me.role
    letIn()
    if (to) await router.replace(to)
    await readAgain()
  }
}
