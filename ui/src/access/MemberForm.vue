<script setup lang="ts">
import { computed, ref } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { useWorkshop } from '../shared/useWorkshop'
import ActRow from '../shared/ActRow.vue'
import FieldPair from '../shared/FieldPair.vue'
import PickField from '../shared/PickField.vue'
import SaveTrouble from '../shared/SaveTrouble.vue'
import TextField from '../shared/TextField.vue'
import { say } from '../shared/toast'
import { roles } from './useMe'

// One who may come in: new, or as they are.
const props = defineProps<{ member?: Schemas['Member'] }>()
const emit = defineEmits<{ done: [] }>()
const { people } = useWorkshop()
const { act, tell, busy, trouble, fault } = useAct()
const name = ref(props.member?.name ?? '')
const role = ref<Schemas['Member']['role']>(props.member?.role ?? 'helper')
const personId = ref(props.member?.personId)
const password = ref('')
const sure = ref(false)

const works = computed(() => [
  { value: undefined, name: 'nobody at the bench' },
  ...people.value.map((p) => ({ value: p.id as number | undefined, name: p.name })),
])
const kinds = Object.entries(roles).map(([value, r]) => ({ value: value as keyof typeof roles, name: r.name }))
const id = computed(() => ({ params: { path: { id: props.member!.id } } }))

async function save() {
  const form = { name: name.value, role: role.value, personId: personId.value, password: password.value || undefined }
  const saved = await act(() =>
    props.member
      ? answerOf(api.POST('/api/members/{id}', { ...id.value, body: { ...form, version: props.member.version } }))
      : answerOf(api.POST('/api/members', { body: form })),
  )
  if (!saved) return
  say({ text: props.member ? 'Saved.' : `${saved.name} may come in.` })
  emit('done')
}
async function close() {
  if ((await tell(() => answerOf(api.POST('/api/members/{id}/close', id.value)))) === undefined && trouble.value) return
  say({ text: `${props.member!.name} is out, with every device of theirs.` })
  emit('done')
}
</script>

<template>
  <form class="member-form" novalidate @submit.prevent="save">
    <FieldPair least="140px">
      <TextField v-model="name" label="Name" :fault="fault('name')" autocomplete="off" maxlength="80" />
      <PickField v-model="role" label="Role" :fault="fault('role')" :hint="roles[role].may" :choices="kinds" />
    </FieldPair>
    <FieldPair least="140px">
      <PickField v-model="personId" label="Works as" :fault="fault('personId')" :choices="works" />
      <TextField
        v-model="password"
        :label="member?.hasPassword ? 'Another password' : 'Password, if wanted'"
        type="password"
        :fault="fault('password')"
        :hint="
          role === 'owner' || member?.hasPassword
            ? 'At least 10 characters.'
            : 'Without one: by a device that you let in.'
        "
        autocomplete="new-password"
        maxlength="200"
      />
    </FieldPair>
    <SaveTrouble :trouble="trouble" />
    <ActRow>
      <button class="act" type="submit" :disabled="busy">{{ member ? 'Save' : 'Let in' }}</button>
      <button class="side" type="button" @click="emit('done')">Leave it</button>
      <template v-if="member">
        <button v-if="!sure" class="word" type="button" @click="sure = true">May not come in any more</button>
        <button v-else class="side" type="button" :disabled="busy" @click="close">
          Yes, end it for {{ member.name }} now
        </button>
      </template>
    </ActRow>
  </form>
</template>

<style scoped>
.member-form {
  padding: 12px 14px 14px;
  border: 1px solid var(--line);
  background: var(--sheet);
}
</style>
