<script setup lang="ts">
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import ClashNote from '../shared/ClashNote.vue'
import { useDraft } from '../shared/draft'
import FootedForm from '../shared/FootedForm.vue'
import SaveTrouble from '../shared/SaveTrouble.vue'
import TextField from '../shared/TextField.vue'
import { say } from '../shared/toast'
import AddressFields from './AddressFields.vue'

// What is kept of a customer, as it is written down; without one, of a new one.
const props = defineProps<{ customer?: Schemas['Customer'] }>()
const emit = defineEmits<{ kept: [id: number] }>()
const { act, busy, trouble, fault } = useAct()

const begun: Schemas['Customer'] = { id: 0, version: 1, name: '', addresses: [], alike: [] }
const { form, version, clashes, keepMine, takeTheirs } = useDraft(
  () => props.customer ?? begun,
  ({ name, phone, email, otherWay, likes, note, addresses }) => ({
    name,
    phone: phone ?? '',
    email: email ?? '',
    otherWay: otherWay ?? '',
    likes: likes ?? '',
    note: note ?? '',
    addresses: addresses.map(({ called, lines }) => ({ called, lines })),
  }),
)
const names = {
  name: 'Name',
  phone: 'Telephone',
  email: 'E-mail',
  otherWay: 'Another way to reach them',
  likes: 'What they like',
  note: 'Note',
  addresses: 'Addresses',
}
const inWords = (field: string, value: unknown) =>
  field === 'addresses'
    ? (value as { called: string; lines: string }[]).map((a) => a.lines.replaceAll('\n', ', ')).join('; ')
    : String(value)

async function save() {
  const body = form.value!
  const { id } = props.customer ?? begun
  const saved = await act(() =>
    id
      ? answerOf(
          api.PUT('/api/customers/{id}', { params: { path: { id } }, body: { ...body, version: version.value } }),
        )
      : answerOf(api.POST('/api/customers', { body })),
  )
  if (!saved) return
  say({ text: `${saved.name} saved.` })
  emit('kept', saved.id)
}
</script>

<template>
  <FootedForm v-if="form" @send="save">
    <h1>{{ customer?.name ?? 'A customer' }}</h1>
    <TextField v-model="form.name" :label="names.name" :fault="fault('name')" maxlength="120" />
    <TextField v-model="form.phone" :label="names.phone" type="tel" :fault="fault('phone')" maxlength="60" />
    <TextField v-model="form.email" :label="names.email" type="email" :fault="fault('email')" maxlength="200" />
    <TextField v-model="form.otherWay" :label="names.otherWay" :fault="fault('otherWay')" maxlength="200" />
    <TextField
      v-model="form.likes"
      :label="names.likes"
      hint="such as a light base, matt"
      :fault="fault('likes')"
      maxlength="400"
    />
    <TextField v-model="form.note" :label="names.note" :rows="3" :fault="fault('note')" maxlength="2000" />
    <AddressFields v-model="form.addresses" :fault="fault" />
    <template #foot>
      <SaveTrouble :trouble="trouble" />
      <ClashNote :clashes="clashes" :names="names" :show="inWords" @mine="keepMine" @theirs="takeTheirs" />
      <button class="act" type="submit" :disabled="busy">
        {{ busy ? 'Saving' : customer ? 'Save' : 'Keep them' }}
      </button>
    </template>
  </FootedForm>
</template>
