<script setup lang="ts">
import { computed } from 'vue'
import FieldRow from '../shared/FieldRow.vue'
import { surfaceKeys, surfaces } from '../shared/words'
import type { BlankForm } from './forms'

// What a blank is, in the words of the people who hold it.
const props = defineProps<{ fault: (field: string) => string }>()
const form = defineModel<BlankForm>({ required: true })
const fault = (field: string) => props.fault(`blank.${field}`)

const shapes: [BlankForm['shape'], string][] = [
  ['rectangle', 'flat, with corners'],
  ['disc', 'flat and round'],
  ['cylinder', 'upright and round'],
]
const tones: [NonNullable<BlankForm['tone']>, string, string][] = [
  ['light', 'light', '#f6f0e0'],
  ['medium', 'medium', '#b9a98a'],
  ['dark', 'dark', '#3d3f48'],
]
const across = computed(() => (form.value.shape === 'rectangle' ? 'Width' : 'Across'))
const flags: ['hangs' | 'throughBlank' | 'drinkware' | 'foodContact' | 'holdsFlame', string][] = [
  ['hangs', 'It hangs from a string'],
  ['throughBlank', 'People look at the picture through it'],
  ['drinkware', 'People drink from it'],
  ['foodContact', 'Food touches it'],
  ['holdsFlame', 'A candle burns in it'],
]
</script>

<template>
  <FieldRow v-slot="f" label="Made of" :fault="fault('surface') || props.fault('surface')">
    <select :id="f.id" v-model="form.surface" class="pick" :aria-describedby="f.described" :aria-invalid="f.invalid">
      <option v-for="s in surfaceKeys" :key="s" :value="s">{{ surfaces[s] }}</option>
    </select>
  </FieldRow>
  <fieldset>
    <legend>Under the picture it is</legend>
    <label v-for="[key, name, colour] in tones" :key="key" class="tone">
      <input v-model="form.tone" type="radio" name="tone" :value="key" />
      <i :style="{ background: colour }" />{{ name }}
    </label>
  </fieldset>
  <FieldRow v-slot="f" label="Shape" :fault="fault('shape')">
    <select :id="f.id" v-model="form.shape" class="pick">
      <option v-for="[key, name] in shapes" :key="key" :value="key">{{ name }}</option>
    </select>
  </FieldRow>
  <div class="pair">
    <FieldRow v-slot="f" :label="across" :fault="fault('width')" hint="90 mm, 3 1/2 in">
      <input
        :id="f.id"
        v-model="form.width"
        class="pick"
        maxlength="40"
        :aria-describedby="f.described"
        :aria-invalid="f.invalid"
      />
    </FieldRow>
    <FieldRow v-if="form.shape !== 'disc'" v-slot="f" label="Height" :fault="fault('height')">
      <input
        :id="f.id"
        v-model="form.height"
        class="pick"
        maxlength="40"
        :aria-describedby="f.described"
        :aria-invalid="f.invalid"
      />
    </FieldRow>
    <FieldRow v-slot="f" label="Thickness" :fault="fault('thickness')">
      <input
        :id="f.id"
        v-model="form.thickness"
        class="pick"
        maxlength="40"
        :aria-describedby="f.described"
        :aria-invalid="f.invalid"
      />
    </FieldRow>
    <FieldRow v-slot="f" label="Printed sides" :fault="fault('sides')">
      <select :id="f.id" v-model.number="form.sides" class="pick">
        <option v-for="n in 6" :key="n" :value="n">{{ n }}</option>
      </select>
    </FieldRow>
  </div>
  <fieldset>
    <legend>And</legend>
    <label v-for="[key, name] in flags" :key="key" class="tick"
      ><input v-model="form[key]" type="checkbox" /> {{ name }}</label
    >
  </fieldset>
  <FieldRow
    v-if="form.drinkware"
    v-slot="f"
    label="From picture to rim"
    :fault="fault('rimGap')"
    hint="At least 15 mm: lips touch the rim."
  >
    <input
      :id="f.id"
      v-model="form.rimGap"
      class="pick"
      maxlength="40"
      :aria-describedby="f.described"
      :aria-invalid="f.invalid"
    />
  </FieldRow>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(88px, 1fr));
  gap: 8px;
  align-items: start;
}
fieldset {
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0;
  font-size: 14px;
  color: var(--soft);
}
.tone {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  min-height: 36px;
  margin-right: 16px;
}
.tone i {
  width: 18px;
  height: 18px;
  border: 1px solid var(--edge);
  border-radius: 50%;
}
.tone input,
.tick input {
  width: 20px;
  height: 20px;
  accent-color: var(--glaze);
}
.tick {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 34px;
}
@media (max-width: 640px) {
  .tick,
  .tone {
    min-height: 48px;
  }
}
</style>
