<script setup lang="ts">
import { written } from '../shared/habit'
import { countIn, plainDecimal } from '../shared/reading'
import { computed, ref, watch } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import ClashNote from '../shared/ClashNote.vue'
import { useDraft } from '../shared/draft'
import { unit } from '../shared/money'
import SaveTrouble from '../shared/SaveTrouble.vue'
import TextField from '../shared/TextField.vue'
import TickBox from '../shared/TickBox.vue'
import { say } from '../shared/toast'
import FieldPair from '../shared/FieldPair.vue'
import FootedForm from '../shared/FootedForm.vue'
import PickField from '../shared/PickField.vue'

// A way of selling: what is taken off a sale there, and what its prices are set for. id 0 is a new one.
const props = defineProps<{ id: number }>()
const emit = defineEmits<{ close: [] }>()
const { act, tell, busy, trouble, fault } = useAct()
const { data: outlets } = useAnswer('/api/outlets')
const outlet = computed(() => outlets.value?.find((o) => o.id === props.id))

const plain = (decimal: string) => String(Number(decimal))
const formOf = (o: Schemas['Outlet']) => ({
  name: o.name,
  feePercent: plain(o.feePercent),
  feeFixed: plain(o.feeFixed),
  cardPercent: plain(o.cardPercent),
  cardFixed: plain(o.cardFixed),
  taxPercent: plain(o.taxPercent),
  taxInPrice: o.taxInPrice,
  taxNote: o.taxNote ?? '',
  ending: o.ending === undefined ? '' : String(o.ending).padStart(2, '0'),
  target: o.target,
  targetValue: plain(o.targetValue),
})
const begun: Schemas['Outlet'] = {
  id: 0,
  main: false,
  version: 1,
  name: '',
  feePercent: '0',
  feeFixed: '0',
  cardPercent: '0',
  cardFixed: '0',
  taxPercent: '0',
  taxInPrice: true,
  target: 'margin',
  targetValue: '30',
}
const { form, version, clashes, keepMine, takeTheirs } = useDraft(() => (props.id ? outlet.value : begun), formOf)
const otherEnding = ref(false)
watch(form, (f) => f && (otherEnding.value = !['', '00', '50', '90'].includes(f.ending)), { immediate: true })
const names = {
  name: 'Name',
  feePercent: 'Fee, %',
  feeFixed: 'Fee a sale',
  cardPercent: 'Card, %',
  cardFixed: 'Card a sale',
  taxPercent: 'Sales tax, %',
  taxInPrice: 'The price holds the tax',
  taxNote: 'Said of the tax on papers',
  ending: 'Prices end on',
  target: 'Prices are set so that',
  targetValue: 'So much',
}
const targetUnit = computed(
  () => ({ margin: '% of the price', wage: `${unit()} an hour`, share: '% of the main price' })[form.value!.target],
)

async function save() {
  const f = form.value!
  const body = {
    ...f,
    feePercent: plainDecimal(f.feePercent),
    feeFixed: plainDecimal(f.feeFixed),
    cardPercent: plainDecimal(f.cardPercent),
    cardFixed: plainDecimal(f.cardFixed),
    taxPercent: plainDecimal(f.taxPercent),
    targetValue: plainDecimal(f.targetValue),
    ending: f.ending === '' ? undefined : countIn(f.ending),
  }
  const saved = await act(() =>
    props.id
      ? answerOf(
          api.PUT('/api/outlets/{id}', {
            params: { path: { id: props.id } },
            body: { ...body, version: version.value },
          }),
        )
      : answerOf(api.POST('/api/outlets', { body })),
  )
  if (!saved) return
  say({ text: `${saved.name} saved. Every price follows.` })
  emit('close')
}
async function end() {
  const o = outlet.value!
  await tell(() =>
    answerOf(api.POST('/api/outlets/{id}/archive', { params: { path: { id: o.id } }, body: { version: o.version } })),
  )
  if (trouble.value) return
  say({ text: `${o.name} is no longer a way of selling.` })
  emit('close')
}
</script>

<template>
  <p v-if="id && outlets && !outlet" class="note brick">This way of selling is not there any more.</p>
  <FootedForm v-else-if="form" @send="save">
    <h1>{{ id ? outlet?.name : 'A way of selling' }}</h1>
    <div class="fields">
      <TextField v-model="form.name" :label="names.name" :fault="fault('name')" maxlength="80" />
      <FieldPair columns="1fr 1fr">
        <TextField
          v-model="form.feePercent"
          :label="names.feePercent"
          :fault="fault('feePercent')"
          hint="of the price before tax"
          inputmode="decimal"
          maxlength="8"
        />
        <TextField
          v-model="form.feeFixed"
          :label="`${names.feeFixed}, ${unit()}`"
          :fault="fault('feeFixed')"
          inputmode="decimal"
          maxlength="10"
        />
        <TextField
          v-model="form.cardPercent"
          :label="names.cardPercent"
          :fault="fault('cardPercent')"
          hint="of all the customer pays"
          inputmode="decimal"
          maxlength="8"
        />
        <TextField
          v-model="form.cardFixed"
          :label="`${names.cardFixed}, ${unit()}`"
          :fault="fault('cardFixed')"
          inputmode="decimal"
          maxlength="10"
        />
        <TextField
          v-model="form.taxPercent"
          :label="names.taxPercent"
          :fault="fault('taxPercent')"
          inputmode="decimal"
          maxlength="8"
        />
      </FieldPair>
      <TickBox v-model="form.taxInPrice">{{ names.taxInPrice }} already</TickBox>
      <TextField
        v-model="form.taxNote"
        :label="names.taxNote"
        :fault="fault('taxNote')"
        hint="such as that a small business charges none"
        maxlength="200"
      />
      <PickField
        :label="names.ending"
        :fault="otherEnding ? '' : fault('ending')"
        :model-value="otherEnding ? 'other' : form.ending"
        :choices="[
          { value: '', name: 'as they come' },
          { value: '00', name: `…${written('0.00')}` },
          { value: '50', name: `…${written('0.50')}` },
          { value: '90', name: `…${written('0.90')}` },
          { value: 'other', name: 'other cents' },
        ]"
        @update:model-value="$event === 'other' ? ((otherEnding = true), (form.ending = '95')) : (form.ending = $event)"
      />
      <TextField
        v-if="otherEnding"
        v-model="form.ending"
        label="Cents"
        :fault="fault('ending')"
        inputmode="numeric"
        maxlength="2"
      />
      <FieldPair columns="1fr 1fr">
        <PickField
          v-model="form.target"
          :label="names.target"
          :fault="fault('target')"
          :choices="[
            { value: 'margin', name: 'a margin is left' },
            { value: 'wage', name: 'an hour earns' },
            ...(!outlet?.main ? [{ value: 'share', name: 'they follow the main price' }] : []),
          ]"
        />
        <TextField
          v-model="form.targetValue"
          :label="targetUnit"
          :fault="fault('targetValue')"
          inputmode="decimal"
          maxlength="10"
        />
      </FieldPair>
      <ClashNote :clashes="clashes" :names="names" @mine="keepMine" @theirs="takeTheirs" />
      <button v-if="outlet && !outlet.main" class="word" type="button" :disabled="busy" @click="end">
        No longer sell this way
      </button>
    </div>
    <template #foot>
      <SaveTrouble :trouble="trouble" />
      <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'Save' }}</button>
    </template>
  </FootedForm>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 10px;
  margin: 10px 0 16px;
}
.word {
  justify-self: start;
}
</style>
