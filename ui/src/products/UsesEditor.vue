<script setup lang="ts">
import TextField from '../shared/TextField.vue'
import { useAnswer } from '../api/answers'
import type { Schemas } from '../api/client'
import TickBox from '../shared/TickBox.vue'
import type { Choice } from '../shared/choices'
import PickField from '../shared/PickField.vue'

// The materials that a step takes: so much a piece or a batch, or coats on faces of the blank.
type Use = Schemas['Use']
const props = defineProps<{ uses: Use[]; fault: (path: string) => string }>()
const emit = defineEmits<{ change: [edit: (uses: Use[]) => Use[]] }>()

const { data: materials } = useAnswer('/api/material-names')
const unit = (key: string) => materials.value?.find((m) => m.materialKey === key)?.unit ?? ''
const filmOf = (key: string) => materials.value?.find((m) => m.materialKey === key)?.filmMm ?? 0.1
const faultOf = (i: number) =>
  ['material', 'quantity', 'per', 'faces', 'filmMm', 'onSheet', 'ink']
    .map((f) => props.fault(`uses[${i}].${f}`))
    .find(Boolean)

const set = (i: number, edit: (u: Use) => void) =>
  emit('change', (uses) => {
    edit(uses[i]!)
    return uses
  })
const per = (i: number, kind: Use['per']) =>
  set(i, (u) => {
    u.per = kind
    delete u.onSheet
    delete u.ink
    if (kind === 'coat') {
      u.faces = u.faces?.length ? u.faces : ['face']
      u.filmMm = u.filmMm || filmOf(u.material)
    } else {
      delete u.faces
      delete u.filmMm
    }
  })
const counted = (material: string): Choice<Use['per']>[] => [
  { value: 'piece', name: `${unit(material)} a piece` },
  { value: 'batch', name: `${unit(material)} a batch` },
  { value: 'coat', name: 'coats' },
  { value: 'sheet', name: 'prints, on whole sheets' },
  { value: 'print', name: 'prints, by what they cover' },
  { value: 'page', name: 'pages of the print' },
  { value: 'tape', name: 'strips of tape' },
  { value: 'power', name: 'watts while it runs' },
]
const inks: Choice<Use['ink']>[] = [
  { value: undefined, name: 'all inks from one' },
  { value: 'black', name: 'its black alone' },
  { value: 'cyan', name: 'its cyan alone' },
  { value: 'magenta', name: 'its magenta alone' },
  { value: 'yellow', name: 'its yellow alone' },
]
const face = (i: number, name: string, on: boolean) =>
  set(i, (u) => (u.faces = on ? [...(u.faces ?? []), name] : (u.faces ?? []).filter((f) => f !== name)))
const out = (i: number) => emit('change', (uses) => uses.filter((_, k) => k !== i))
const add = () =>
  emit('change', (uses) => [
    ...uses,
    { material: materials.value?.[0]?.materialKey ?? 'varnish', quantity: 1, per: 'piece' },
  ])
</script>

<template>
  <div v-for="(u, i) in uses" :key="i" class="use">
    <PickField
      bare
      :label="`Material ${i + 1}`"
      :model-value="u.material"
      :choices="materials?.map((m) => ({ value: m.materialKey, name: m.name }))"
      @update:model-value="set(i, (x) => (x.material = $event))"
    />
    <TextField
      bare
      lazy
      numeric
      :label="`How much of material ${i + 1}`"
      :model-value="u.quantity"
      @update:model-value="set(i, (x) => (x.quantity = Number($event)))"
    />
    <PickField
      bare
      :label="`Material ${i + 1} is counted by`"
      :model-value="u.per"
      :choices="counted(u.material)"
      @update:model-value="per(i, $event)"
    />
    <button class="word" type="button" :aria-label="`Take material ${i + 1} out`" @click="out(i)">Out</button>
    <TextField
      v-if="u.per === 'sheet'"
      class="coat film"
      lazy
      numeric
      label="prints on a sheet"
      placeholder="by size"
      :model-value="u.onSheet || undefined"
      @update:model-value="set(i, (x) => (x.onSheet = Number($event)))"
    />
    <PickField
      v-if="u.per === 'print'"
      class="coat ink"
      :label="`of which ink it is, ${i + 1}`"
      bare
      :model-value="u.ink"
      :choices="inks"
      @update:model-value="set(i, (x) => (x.ink = $event))"
    />
    <div v-if="u.per === 'coat'" class="coat">
      <TickBox
        v-for="name in ['picture', 'face', 'back', 'edge']"
        :key="name"
        small
        :model-value="u.faces?.includes(name) ?? false"
        @update:model-value="face(i, name, Boolean($event))"
        >{{ name }}</TickBox
      >
      <TextField
        class="film"
        lazy
        numeric
        label="film, mm"
        :model-value="u.filmMm"
        @update:model-value="set(i, (x) => (x.filmMm = Number($event)))"
      />
    </div>
    <p v-if="faultOf(i)" class="bad" role="alert">{{ faultOf(i) }}</p>
  </div>
  <button class="word left" type="button" @click="add">Add a material</button>
</template>

<style scoped>
.use {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(56px, 0.7fr) minmax(0, 1.3fr) auto;
  gap: 6px;
  align-items: center;
}
.coat,
.bad {
  grid-column: 1 / -1;
}
.film {
  max-width: 150px;
  white-space: nowrap;
}
.ink {
  max-width: 200px;
}
.left {
  justify-self: start;
}
</style>
