<script setup lang="ts">
import { plainDecimal } from '../shared/reading'
import { computed } from 'vue'
import { unit } from '../shared/money'
import TextField from '../shared/TextField.vue'
import TickBox from '../shared/TickBox.vue'
import { places, sheens, withOf, withs } from '../shared/words'
import RestFields from './RestFields.vue'
import UsesEditor from './UsesEditor.vue'
import type { Step } from './useRecipe'
import FieldPair from '../shared/FieldPair.vue'
import ActRow from '../shared/ActRow.vue'
import PickField from '../shared/PickField.vue'

// One step of the recipe, opened to be changed. Every change goes to the strip at once.
const props = defineProps<{
  step: Step
  index: number
  host: Step | undefined
  last: boolean
  fields: Record<string, string>
  cautions: string[]
  may: NonNullable<Step['outcomes']>
}>()
const emit = defineEmits<{ change: [edit: (s: Step) => void]; move: [by: 1 | -1]; remove: []; add: []; close: [] }>()

const set = (edit: (s: Step) => void) => emit('change', edit)
const fault = (path: string) => props.fields[`steps[${props.index}].${path}`] ?? ''
const choices = computed(() => withOf[props.step.do] ?? [])
const outcomes: Step['outcomes'] = ['again', 'rework', 'spoiled']

const lines = (text: unknown) =>
  String(text)
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)
const turned = <T,>(list: T[], one: T, on: boolean) => (on ? [...list, one] : list.filter((x) => x !== one))
const hasRest = (on: boolean) =>
  set((s) => {
    if (on) s.rest = { kind: 'dry', floor: 60, usual: 120, rack: 1 }
    else delete s.rest
  })
const goInside = (on: boolean) =>
  set((s) => {
    s.inside = on ? props.host!.id : undefined
    if (on) delete s.rest
  })

// Work bought in: nothing typed is none of it.
type Part = 'perPiece' | 'perBatch'
const boughtIn = (part: Part) => (Number(props.step.outside?.[part] ?? 0) ? props.step.outside![part] : '')
const buyIn = (part: Part, text: string) =>
  set((s) => {
    const outside = { perPiece: '0', perBatch: '0', ...s.outside, [part]: plainDecimal(text) || '0' }
    if (outside.perPiece === '0' && outside.perBatch === '0') delete s.outside
    else s.outside = outside
  })
</script>

<template>
  <section class="panel" :aria-label="`Step ${index + 1}: ${step.name}`">
    <div class="head">
      <h2>{{ index + 1 }}. {{ step.name }}</h2>
      <ActRow class="strip">
        <button class="side" type="button" @click="emit('move', -1)">Earlier</button>
        <button class="side" type="button" @click="emit('move', 1)">Later</button>
        <button class="side" type="button" @click="emit('add')">Add a step after it</button>
        <button class="side" type="button" @click="emit('remove')">Remove</button>
        <button class="word" type="button" @click="emit('close')">Close</button>
      </ActRow>
    </div>
    <div class="grid">
      <div class="col">
        <TextField
          lazy
          label="Name"
          :fault="fault('name')"
          maxlength="120"
          :model-value="step.name"
          @update:model-value="set((s) => (s.name = String($event)))"
        />
        <PickField
          v-if="choices.length"
          label="With"
          :fault="fault('with')"
          :model-value="step.with"
          :choices="choices.map((w) => ({ value: w, name: withs[w] ?? w }))"
          @update:model-value="set((s) => (s.with = $event))"
        />
        <FieldPair least="84px">
          <TextField
            lazy
            numeric
            label="Set-up, min"
            :fault="fault('setupMinutes')"
            :model-value="step.setupMinutes"
            @update:model-value="set((s) => (s.setupMinutes = Number($event)))"
          />
          <TextField
            lazy
            numeric
            label="Then a piece, min"
            :fault="fault('minutesPerPiece')"
            :model-value="step.minutesPerPiece"
            @update:model-value="set((s) => (s.minutesPerPiece = Number($event)))"
          />
          <TextField
            lazy
            numeric
            label="Come through, %"
            :fault="fault('yield')"
            :model-value="Math.round(step.yield * 1000) / 10"
            @update:model-value="set((s) => (s.yield = Number($event) / 100))"
          />
        </FieldPair>
        <TickBox v-if="host" :model-value="Boolean(step.inside)" @update:model-value="goInside(Boolean($event))">
          Done while “{{ host.name }}” rests
        </TickBox>
        <p v-if="fault('inside')" class="bad" role="alert">{{ fault('inside') }}</p>
        <template v-if="!step.inside && !last">
          <TickBox :model-value="Boolean(step.rest)" @update:model-value="hasRest(Boolean($event))">
            Rests afterwards
          </TickBox>
          <RestFields
            v-if="step.rest"
            :rest="step.rest"
            :fault="(field) => fault(`rest.${field}`)"
            @change="set((s) => $event(s.rest!))"
          />
        </template>
      </div>
      <div class="col">
        <h3>What it uses</h3>
        <UsesEditor :uses="step.uses ?? []" :fault="fault" @change="set((s) => (s.uses = $event(s.uses ?? [])))" />
        <FieldPair least="84px">
          <TextField
            lazy
            :label="`Bought in, ${unit()} a piece`"
            :fault="fault('outside.perPiece')"
            inputmode="decimal"
            maxlength="10"
            :model-value="boughtIn('perPiece')"
            @update:model-value="buyIn('perPiece', String($event))"
          />
          <TextField
            lazy
            :label="`Bought in, ${unit()} a batch`"
            :fault="fault('outside.perBatch')"
            inputmode="decimal"
            maxlength="10"
            :model-value="boughtIn('perBatch')"
            @update:model-value="buyIn('perBatch', String($event))"
          />
        </FieldPair>
        <fieldset>
          <legend>Pieces can come out good, or</legend>
          <TickBox
            v-for="o in outcomes"
            :key="o"
            small
            :disabled="Boolean(step.inside)"
            :model-value="may.includes(o)"
            @update:model-value="set((s) => (s.outcomes = turned(may, o, Boolean($event))))"
            >{{ o }}</TickBox
          >
        </fieldset>
        <fieldset>
          <legend>Has to itself</legend>
          <TickBox
            v-for="(name, place) in places"
            :key="place"
            small
            :model-value="step.holds?.includes(place) ?? false"
            @update:model-value="set((s) => (s.holds = turned(s.holds ?? [], place, Boolean($event))))"
            >{{ name }}</TickBox
          >
        </fieldset>
        <fieldset v-if="step.do === 'seal'">
          <legend>This coat</legend>
          <TickBox
            small
            :model-value="step.coversEdges ?? false"
            @update:model-value="set((s) => (s.coversEdges = Boolean($event)))"
            >goes over the edge</TickBox
          >
          <TickBox
            small
            :model-value="step.foodSafe ?? false"
            @update:model-value="set((s) => (s.foodSafe = Boolean($event)))"
            >is labelled food-safe</TickBox
          >
          <PickField
            class="sheen"
            label="It dries"
            :model-value="step.sheen"
            :choices="[{ value: undefined, name: 'not said' }, ...sheens.map((x) => ({ value: x, name: x }))]"
            @update:model-value="set((s) => (s.sheen = $event))"
          />
        </fieldset>
      </div>
      <div class="col">
        <TextField
          lazy
          label="Checklist, a line each"
          :fault="fault('checklist')"
          :rows="6"
          :model-value="step.checklist?.join('\n')"
          @update:model-value="set((s) => (s.checklist = lines($event)))"
        />
        <TextField
          lazy
          label="Your own cautions, a line each"
          :fault="fault('cautions')"
          :rows="2"
          :model-value="step.cautions?.join('\n')"
          @update:model-value="set((s) => (s.cautions = lines($event)))"
        />
        <div v-if="cautions.length" class="note">
          <p v-for="c in cautions" :key="c">{{ c }}</p>
        </div>
      </div>
    </div>
  </section>
</template>

<style scoped>
.panel {
  padding: 12px 16px 16px;
  background: var(--sheet);
  border: 1px solid var(--line);
  border-top: 3px solid var(--clay);
}
.head {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 8px 16px;
  align-items: center;
  margin-bottom: 10px;
}
.strip .side {
  min-height: 36px;
  padding: 0 12px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 24px;
}
.col {
  display: grid;
  gap: 10px;
  align-content: start;
}
.sheen {
  width: 12em;
}
.note {
  display: grid;
  gap: 6px;
}
@media (max-width: 1000px) {
  .grid {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 640px) {
  .strip .side {
    min-height: 48px;
  }
}
</style>
