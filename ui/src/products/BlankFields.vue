<script setup lang="ts">
import ChoiceField from '../shared/ChoiceField.vue'
import { computed, watch } from 'vue'
import TextField from '../shared/TextField.vue'
import TickBox from '../shared/TickBox.vue'
import { surfaceKeys, surfaces } from '../shared/words'
import type { BlankForm } from './forms'
import FieldPair from '../shared/FieldPair.vue'
import type { Choice } from '../shared/choices'
import OutlineField from './OutlineField.vue'
import PickField from '../shared/PickField.vue'

// What a blank is, in the words of the people who hold it.
const props = defineProps<{ fault: (field: string) => string }>()
const form = defineModel<BlankForm>({ required: true })
const fault = (field: string) => props.fault(`blank.${field}`)

const shapes: [BlankForm['shape'], string][] = [
  ['rectangle', 'flat, with corners'],
  ['disc', 'flat and round'],
  ['oval', 'flat and oval'],
  ['arch', 'flat, round at the top'],
  ['heart', 'a heart'],
  ['cylinder', 'upright and round'],
  ['tapered', 'upright, narrower at the foot'],
  ['own', 'flat, with an outline of its own'],
]
const tones: (Choice<NonNullable<BlankForm['tone']>> & { colour: string })[] = [
  { value: 'light', name: 'light', colour: '#f6f0e0' },
  { value: 'medium', name: 'medium', colour: '#b9a98a' },
  { value: 'dark', name: 'dark', colour: '#3d3f48' },
]
const across = computed(
  () => ({ disc: 'Across', cylinder: 'Across', tapered: 'Across at the top' })[form.value.shape as string] ?? 'Width',
)
type Flag =
  | 'hangs'
  | 'holed'
  | 'throughBlank'
  | 'drinkware'
  | 'foodContact'
  | 'holdsFlame'
  | 'forChildren'
  | 'paintCured'
  | 'bound'
  | 'sidesApart'
const painted = computed(() => /-painted$/.test(form.value.surface))
const hangable = computed(() => form.value.surface !== 'candle')
const clear = computed(() => ['glass', 'plastic'].includes(form.value.surface))
// What does not concern this blank is not asked, and not left ticked.
const flags = computed<[Flag, string][]>(() => [
  ...(hangable.value ? ([['hangs', 'It hangs from a string']] as [Flag, string][]) : []),
  ...(form.value.hangs ? ([['holed', 'It is bought with its hole']] as [Flag, string][]) : []),
  ...(clear.value ? ([['throughBlank', 'People look at the picture through it']] as [Flag, string][]) : []),
  ...(painted.value ? ([['paintCured', 'Its paint is over three days old']] as [Flag, string][]) : []),
  ...(form.value.surface === 'coated-board'
    ? ([['bound', 'It is a cover, punched and bound']] as [Flag, string][])
    : []),
  ...((form.value.sides ?? 1) > 1
    ? ([['sidesApart', 'Its sides do not touch what they lie on: laid in one sitting']] as [Flag, string][])
    : []),
  ['drinkware', 'People drink from it'],
  ['foodContact', 'Food touches it'],
  ['holdsFlame', 'A candle burns in it'],
  ['forChildren', 'It is for children'],
])
watch(hangable, (may) => {
  if (!may) form.value.hangs = false
})
watch(clear, (on) => {
  if (!on) form.value.throughBlank = false
})
</script>

<template>
  <PickField
    v-model="form.surface"
    label="Made of"
    :fault="fault('surface') || props.fault('surface')"
    :choices="surfaceKeys.map((s) => ({ value: s, name: surfaces[s] }))"
  />
  <ChoiceField v-model="form.tone" label="Under the picture it is" :choices="tones" row />
  <PickField
    v-model="form.shape"
    label="Shape"
    :fault="fault('shape')"
    :choices="shapes.map(([key, name]) => ({ value: key, name: name }))"
  />
  <FieldPair least="88px">
    <TextField
      v-model="form.width"
      :label="across"
      :fault="fault('width')"
      hint="Typed as 90 mm or 3 1/2 in"
      maxlength="40"
    />
    <TextField
      v-if="form.shape === 'tapered'"
      v-model="form.foot"
      label="Across at the foot"
      :fault="fault('foot')"
      maxlength="40"
    />
    <TextField
      v-if="form.shape !== 'disc'"
      v-model="form.height"
      label="Height"
      :fault="fault('height')"
      maxlength="40"
    />
    <TextField
      v-if="form.shape === 'rectangle'"
      v-model="form.corner"
      label="Corner radius"
      :fault="fault('corner')"
      hint="Empty: square corners"
      maxlength="40"
    />
    <OutlineField v-if="form.shape === 'own'" v-model="form.path" :fault="fault('path')" />
    <TextField v-model="form.thickness" label="Thickness" :fault="fault('thickness')" maxlength="40" />
    <PickField
      v-model="form.sides"
      label="Printed sides"
      :fault="fault('sides')"
      :choices="[1, 2, 3, 4, 5, 6].map((n) => ({ value: n, name: String(n) }))"
    />
  </FieldPair>
  <fieldset>
    <legend>And</legend>
    <TickBox v-for="[key, name] in flags" :key="key" v-model="form[key]">{{ name }}</TickBox>
  </fieldset>
  <TextField
    v-if="form.drinkware"
    v-model="form.rimGap"
    label="From picture to rim"
    :fault="fault('rimGap')"
    hint="At least 15 mm: lips touch the rim."
    maxlength="40"
  />
</template>
