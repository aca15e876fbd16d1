<script setup lang="ts">
import { computed } from 'vue'
import { unit } from '../shared/money'
import TextField from '../shared/TextField.vue'
import { laid } from './label'
import LabelFields from './LabelFields.vue'
import { materialNames as names, type MaterialText } from './materialForm'
import { kinds, units } from './words'
import FieldPair from '../shared/FieldPair.vue'
import PickField from '../shared/PickField.vue'
import { choicesOf } from '../shared/choices'

// The facts of a material; only those that can matter for its kind and unit are asked.
defineProps<{ fault: (field: string) => string; counted?: boolean }>()
const form = defineModel<MaterialText>({ required: true })
const liquid = computed(() => form.value.unit === 'ml')
</script>

<template>
  <TextField v-model="form.name" :label="names.name!" :fault="fault('name')" maxlength="120" />
  <FieldPair least="130px">
    <PickField v-model="form.kind" :label="names.kind!" :fault="fault('kind')" :choices="choicesOf(kinds)" />
    <PickField
      v-model="form.unit"
      :label="names.unit!"
      :fault="fault('unit')"
      :choices="units.map((u) => ({ value: u, name: u }))"
    />
  </FieldPair>
  <TextField
    v-if="!counted"
    v-model="form.unitCost"
    :label="`A ${form.unit} costs, ${unit()}`"
    :fault="fault('unitCost')"
    hint="Until something is bought; then it is what you paid."
    inputmode="decimal"
    maxlength="14"
  />
  <FieldPair least="130px">
    <TextField
      v-if="liquid"
      v-model="form.filmMm"
      :label="names.filmMm!"
      :fault="fault('filmMm')"
      inputmode="decimal"
      maxlength="10"
    />
    <TextField
      v-if="liquid || form.unit === 'g'"
      v-model="form.density"
      :label="names.density!"
      :fault="fault('density')"
      hint="To buy it by weight or by volume alike."
      inputmode="decimal"
      maxlength="10"
    />
    <template v-if="form.unit === 'sheet'">
      <TextField
        v-model="form.sheetWidthMm"
        :label="names.sheetWidthMm!"
        :fault="fault('sheetWidthMm')"
        inputmode="decimal"
        maxlength="10"
      />
      <TextField
        v-model="form.sheetHeightMm"
        :label="names.sheetHeightMm!"
        :fault="fault('sheetHeightMm')"
        inputmode="decimal"
        maxlength="10"
      />
    </template>
    <TextField
      v-if="form.kind === 'consumable' || form.lasts"
      v-model="form.lasts"
      :label="names.lasts!"
      :fault="fault('lasts')"
      inputmode="decimal"
      maxlength="10"
    />
    <TextField
      v-model="form.leadDays"
      :label="names.leadDays!"
      :fault="fault('leadDays')"
      inputmode="numeric"
      maxlength="3"
    />
    <TextField
      v-model="form.shelfLifeDays"
      :label="names.shelfLifeDays!"
      :fault="fault('shelfLifeDays')"
      inputmode="numeric"
      maxlength="5"
    />
    <TextField
      v-model="form.openLifeDays"
      :label="names.openLifeDays!"
      :fault="fault('openLifeDays')"
      inputmode="numeric"
      maxlength="5"
    />
  </FieldPair>
  <FieldPair v-if="form.kind === 'blank'" least="130px">
    <TextField
      v-model="form.sort"
      :label="names.sort!"
      :fault="fault('sort')"
      hint="The same for all size classes it is sorted into."
      maxlength="80"
    />
    <TextField
      v-model="form.smallestMm"
      :label="names.smallestMm!"
      :fault="fault('smallestMm')"
      hint="Prints are sized to it."
      inputmode="decimal"
      maxlength="10"
    />
  </FieldPair>
  <LabelFields v-if="laid(form.kind)" v-model="form" :fault="fault" />
  <TextField
    v-model="form.hazard"
    :label="names.hazard!"
    :rows="2"
    :fault="fault('hazard')"
    maxlength="500"
    hint="From its label and safety data sheet."
  />
</template>
