<script setup lang="ts">
import { reactive } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import ActRow from '../shared/ActRow.vue'
import FieldPair from '../shared/FieldPair.vue'
import TextField from '../shared/TextField.vue'
import { say } from '../shared/toast'
import TroubleNote from '../shared/TroubleNote.vue'

// A sheet of labels as its packet says, in mm.
const props = defineProps<{ sheet?: Schemas['LabelSheet'] }>()
const { act, tell, busy, trouble, fault } = useAct()
type Form = Omit<Schemas['LabelSheetForm'], '$schema'>
const blank: Form = {
  name: '',
  pageWidth: 210,
  pageHeight: 297,
  columns: 3,
  rows: 8,
  labelWidth: 70,
  labelHeight: 36,
  marginLeft: 0,
  marginTop: 4.5,
  gapX: 0,
  gapY: 0,
}
const fields: [keyof Omit<Form, 'name'>, string][] = [
  ['columns', 'Labels across'],
  ['rows', 'Labels down'],
  ['labelWidth', 'Label wide, mm'],
  ['labelHeight', 'Label high, mm'],
  ['marginLeft', 'Left margin, mm'],
  ['marginTop', 'Top margin, mm'],
  ['gapX', 'Gap across, mm'],
  ['gapY', 'Gap down, mm'],
  ['pageWidth', 'Page wide, mm'],
  ['pageHeight', 'Page high, mm'],
]
const formOf = ({ name, ...rest }: Form): Form => ({
  name,
  ...(Object.fromEntries(fields.map(([key]) => [key, rest[key]])) as Omit<Form, 'name'>),
})
const form = reactive(formOf(props.sheet ?? blank))
async function save() {
  const s = props.sheet
  const body = { ...form, version: s?.version ?? 1 }
  const done = await act(() =>
    s
      ? answerOf(api.PUT('/api/label-sheets/{id}', { params: { path: { id: s.id } }, body }))
      : answerOf(api.POST('/api/label-sheets', { body: { ...form } })),
  )
  if (trouble.value) return
  say({ text: `${form.name} is saved.` })
  if (done && !s) Object.assign(form, blank)
}
async function remove() {
  const s = props.sheet!
  await tell(() =>
    answerOf(
      api.POST('/api/label-sheets/{id}/remove', { params: { path: { id: s.id } }, body: { version: s.version } }),
    ),
  )
  if (trouble.value) return
  say({
    text: `${s.name} is removed.`,
    action: 'Undo',
    act: () => tell(() => answerOf(api.POST('/api/label-sheets', { body: formOf(s) }))),
  })
}
</script>

<template>
  <form class="sheet" novalidate :aria-label="sheet?.name ?? 'Another sheet'" @submit.prevent="save">
    <TextField v-model="form.name" label="Name" :fault="fault('name')" maxlength="80" />
    <FieldPair columns="repeat(auto-fit, minmax(140px, 1fr))">
      <TextField
        v-for="[key, name] in fields"
        :key="key"
        v-model="form[key]"
        :label="name"
        numeric
        :fault="fault(key)"
      />
    </FieldPair>
    <TroubleNote :trouble="trouble" />
    <ActRow>
      <button class="act" type="submit" :disabled="busy">{{ sheet ? 'Save' : 'Add it' }}</button>
      <a v-if="sheet" :href="`/api/label-sheets/${sheet.id}/pdf`" target="_blank">Try it on plain paper (PDF)</a>
      <button v-if="sheet" class="word" type="button" :disabled="busy" @click="remove">Remove it</button>
    </ActRow>
  </form>
</template>

<style scoped>
.sheet {
  display: grid;
  gap: 10px;
  max-width: 620px;
  padding-bottom: 12px;
}
</style>
