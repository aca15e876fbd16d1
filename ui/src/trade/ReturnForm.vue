<script setup lang="ts">
import { computed, reactive, ref } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { choicesOf } from '../shared/choices'
import { thisMinute } from '../shared/clock'
import CountField from '../shared/CountField.vue'
import DateField from '../shared/DateField.vue'
import FieldPair from '../shared/FieldPair.vue'
import { amount as inCents, money, unit } from '../shared/money'
import PickField from '../shared/PickField.vue'
import { plainDecimal } from '../shared/reading'
import PanelForm from '../shared/PanelForm.vue'
import TextField from '../shared/TextField.vue'
import TickBox from '../shared/TickBox.vue'
import { addDays, dateOf } from '../shared/time'
import { say } from '../shared/toast'

// What came back, or was complained of: which pieces, why, where they go, and what is done.
const props = defineProps<{ id: number; returned: number[] }>()
const emit = defineEmits<{ done: [] }>()
const { act, busy, trouble, fault } = useAct()
const { data: order } = useAnswer('/api/orders/{id}', () => ({ path: { id: props.id } }))
const { data: troubles } = useAnswer('/api/troubles')
type Goes = Schemas['Returned']['goes']
const form = reactive({ goes: 'shelf' as Goes, cause: '', amount: '0', remake: false, remakeBy: '', note: '' })
form.remakeBy = addDays(dateOf(thisMinute.value), 14)
const goesNames: Record<Goes, string> = {
  shelf: 'back to the shelf',
  spoiled: 'spoiled, and thrown away',
  stays: 'they stay with the customer',
}
// Pieces with names are ticked one by one, plain ones only counted.
const lines = computed(() =>
  (order.value?.lines ?? []).map((l) => {
    const left = l.pieces.filter((p) => !props.returned.includes(p.wantId)).map((p) => p.wantId)
    return { ...l, left, named: l.pieces.some((p) => p.lettering !== '') }
  }),
)
type Line = (typeof lines.value)[number]
const picked = ref<number[]>([])
const pickedOf = (line: Line) => line.left.filter((id) => picked.value.includes(id))
const setPicked = (line: Line, ids: number[]) =>
  (picked.value = [...picked.value.filter((id) => !line.left.includes(id)), ...ids])
const pick = (line: Line, wantId: number, on: boolean) =>
  setPicked(line, on ? [...pickedOf(line), wantId] : pickedOf(line).filter((id) => id !== wantId))
const worth = computed(() => lines.value.reduce((all, l) => all + pickedOf(l).length * Number(l.unitPrice), 0))
const causes = computed(() => [
  { value: '', name: 'nothing is wrong with it' },
  ...(troubles.value ?? []).map((t) => ({ value: t.key, name: t.sign })),
])
const faultOfPieces = computed(() => {
  const at = picked.value.findIndex((_, i) => fault(`pieces[${i}].wantId`))
  return at < 0 ? '' : fault(`pieces[${at}].wantId`)
})
// Which promises the pieces made again would break is named first.
const breaks = ref<{ names: string[]; moves: Schemas['AgreedMove'][] } | null>(null)
async function note(agreed: Schemas['AgreedMove'][] = []) {
  breaks.value = null
  const body = {
    pieces: picked.value.map((wantId) => ({ wantId, goes: form.goes })),
    cause: form.cause,
    amount: plainDecimal(form.amount),
    remakeBy: form.remake ? form.remakeBy : undefined,
    note: form.note,
    version: order.value!.version,
    agreed,
  }
  const account = await act(() =>
    answerOf(api.POST('/api/orders/{id}/returns', { params: { path: { id: props.id } }, body })),
  )
  if (trouble.value?.type === '/problems/breaks-promises') {
    const moves = [...agreed, ...(trouble.value.values as Schemas['AgreedMove'][])]
    breaks.value = { names: Object.values(trouble.value.fields), moves }
  }
  if (!account) return
  say({ text: form.remake ? 'Noted; the pieces made again are an order of their own.' : 'Noted.' })
  emit('done')
}
</script>

<template>
  <PanelForm
    v-if="order"
    label="Something came back"
    act="Note it"
    acting="Saving"
    :busy="busy"
    :trouble="breaks ? null : trouble"
    :disabled="picked.length === 0"
    @send="note()"
    @leave="emit('done')"
  >
    <fieldset>
      <legend>Which pieces</legend>
      <template v-for="l in lines" :key="l.lineId">
        <CountField
          v-if="!l.named"
          :model-value="pickedOf(l).length"
          :label="`${l.product}, of ${l.left.length}`"
          :most="l.left.length"
          @update:model-value="setPicked(l, l.left.slice(0, $event))"
        />
        <template v-else>
          <TickBox
            v-for="p in l.pieces"
            :key="p.wantId"
            :model-value="picked.includes(p.wantId)"
            :disabled="!l.left.includes(p.wantId)"
            @update:model-value="pick(l, p.wantId, Boolean($event))"
            >{{ l.product }}, {{ p.lettering
            }}<template v-if="!l.left.includes(p.wantId)">, came back already</template></TickBox
          >
        </template>
      </template>
      <p v-if="faultOfPieces || fault('pieces')" class="bad" role="alert">{{ faultOfPieces || fault('pieces') }}</p>
    </fieldset>
    <PickField v-model="form.cause" label="Why" :choices="causes" :fault="fault('cause')" />
    <PickField v-model="form.goes" label="The pieces go" :choices="choicesOf(goesNames)" :fault="fault('goes')" />
    <FieldPair columns="1fr 1fr">
      <TextField
        v-model="form.amount"
        :label="`Let off, ${unit()}`"
        :fault="fault('amount')"
        inputmode="decimal"
        maxlength="14"
      />
    </FieldPair>
    <p v-if="worth > 0" class="quiet">
      They cost {{ money(worth) }}.
      <button class="word" type="button" @click="form.amount = inCents(String(worth))">Let all of it off</button>
    </p>
    <TickBox v-model="form.remake">Make them again, for nothing</TickBox>
    <DateField v-if="form.remake" v-model="form.remakeBy" label="Ready by" :fault="fault('remakeBy')" />
    <TextField v-model="form.note" label="Note" :fault="fault('note')" maxlength="400" />
    <div v-if="breaks" class="note brick" role="alert">
      <p>Making them again by then would break what is promised to others:</p>
      <p v-for="n in breaks.names" :key="n">{{ n }}</p>
      <button class="side" type="button" :disabled="busy" @click="note(breaks.moves)">Do it all the same</button>
    </div>
  </PanelForm>
</template>

<style scoped>
fieldset {
  display: grid;
  gap: 2px;
  max-height: 260px;
  overflow-y: auto;
}
legend {
  font-size: inherit;
}
</style>
