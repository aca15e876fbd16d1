import { computed, watch } from 'vue'
import { useAnswer } from '../api/answers'
import { personId, role } from '../shared/settings'

// useMe reads who this is, and keeps what that says for every page.
export function useMe() {
  const { data: me } = useAnswer('/api/me')
  watch(me, (is) => {
    if (is?.role) role.value = is.role
    if (is?.personId) personId.value = is.personId
  })
  return {
    me,
    // whoever works by their own sign-in is not asked who is at the device
    fixed: computed(() => Boolean(me.value?.memberId && me.value.personId)),
    owns: computed(() => role.value === 'owner'),
  }
}

export const roles = {
  owner: { name: 'Owner', may: 'everything' },
  maker: { name: 'Maker', may: 'orders, products, stores, the plan: the day’s business' },
  helper: { name: 'Helper', may: 'the bench only, without prices and customers' },
  viewer: { name: 'Viewer', may: 'looks at everything, changes nothing' },
} as const

// thisKind names a device as people do, until they give it a better name.
export const thisKind = () => (window.matchMedia('(pointer: coarse)').matches ? 'a phone or tablet' : 'a computer')
