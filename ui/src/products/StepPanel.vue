<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import FieldRow from '../shared/FieldRow.vue'
import { exact, minutesIn } from '../shared/time'
import { places, restKinds, sheens, withOf, withs } from '../shared/words'
import type { Step } from './useRecipe'

// One step of the recipe, opened to be changed. Every change goes to the strip at once.
const props = defineProps<{
  step: Step
  index: number
  host: Step | undefined
  last: boolean
  fields: Record<string, string>
  cautions: string[]
}>()
const emit = defineEmits<{ change: [edit: (s: Step) => void]; move: [by: 1 | -1]; remove: []; add: []; close: [] }>()

const { data: materials } = useQuery({ queryKey: ['materials'], queryFn: () => answerOf(api.GET('/api/materials')) })
const fault = (path: string) => props.fields[`steps[${props.index}].${path}`] ?? ''
const choices = computed(() => withOf[props.step.do] ?? [])
const outcomes = ['again', 'rework', 'spoiled']
const usual: Record<string, string[]> = {
  'remove-paper': ['again', 'rework', 'spoiled'],
  inspect: ['again', 'rework', 'spoiled'],
}
const chosen = computed(() =>
  props.step.outcomes?.length ? props.step.outcomes : (usual[props.step.do] ?? ['spoiled']),
)

const set = (edit: (s: Step) => void) => emit('change', edit)
const numberOf = (event: Event) => Number((event.target as HTMLInputElement).value.replace(',', '.'))
const textOf = (event: Event) => (event.target as HTMLInputElement).value
const lines = (event: Event) =>
  textOf(event)
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)

// Rests are typed as people say them; what cannot be read stays where it is and says so.
type RestField = 'floor' | 'usual' | 'ceiling'
const typed = ref<Record<RestField, string>>({ floor: '', usual: '', ceiling: '' })
const unread = ref<Partial<Record<RestField, string>>>({})
watch(
  () => [props.step.id, JSON.stringify(props.step.rest ?? null)],
  () => {
    const r = props.step.rest
    typed.value = {
      floor: r ? exact(r.floor) : '',
      usual: r ? exact(r.usual) : '',
      ceiling: r?.ceiling === undefined ? '' : exact(r.ceiling),
    }
    unread.value = {}
  },
  { immediate: true },
)
function setRest(field: RestField, event: Event) {
  const text = textOf(event)
  typed.value[field] = text
  const minutes = minutesIn(text)
  if (field === 'ceiling' && text.trim() === '') return set((s) => delete s.rest!.ceiling)
  if (minutes === null) {
    unread.value = { ...unread.value, [field]: 'write it as 45 min, 8 h or 1 d 4 h' }
    return
  }
  set((s) => (s.rest![field] = minutes))
}
const hasRest = (on: boolean) =>
  set((s) => {
    if (on) s.rest = { kind: 'dry', floor: 60, usual: 120, rack: 1 }
    else delete s.rest
  })
const mayBeInside = computed(() => props.host !== undefined)
const goInside = (on: boolean) =>
  set((s) => {
    s.inside = on ? props.host!.id : undefined
    if (on) delete s.rest
  })
const hold = (place: string, on: boolean) =>
  set((s) => (s.holds = on ? [...(s.holds ?? []), place] : (s.holds ?? []).filter((h) => h !== place)))
const outcome = (o: string, on: boolean) =>
  set((s) => (s.outcomes = on ? [...chosen.value, o] : chosen.value.filter((x) => x !== o)))
const setUse = (i: number, edit: (u: Schemas['Use']) => void) => set((s) => edit(s.uses![i]!))
const per = (i: number, kind: string) =>
  setUse(i, (u) => {
    u.per = kind as Schemas['Use']['per']
    if (kind === 'coat') {
      u.faces = u.faces?.length ? u.faces : ['face']
      u.filmMm = u.filmMm || 0.1
    } else {
      delete u.faces
      delete u.filmMm
    }
  })
const unit = (key: string) => materials.value?.find((m) => m.materialKey === key)?.unit ?? ''
</script>

<template>
  <section class="panel" :aria-label="`Step ${index + 1}: ${step.name}`">
    <div class="head">
      <h2>{{ index + 1 }}. {{ step.name }}</h2>
      <div class="acts">
        <button class="side" type="button" @click="emit('move', -1)">Earlier</button>
        <button class="side" type="button" @click="emit('move', 1)">Later</button>
        <button class="side" type="button" @click="emit('add')">Add a step after it</button>
        <button class="side" type="button" @click="emit('remove')">Remove</button>
        <button class="word" type="button" @click="emit('close')">Close</button>
      </div>
    </div>
    <div class="grid">
      <div class="col">
        <FieldRow v-slot="f" label="Name" :fault="fault('name')">
          <input
            :id="f.id"
            class="pick"
            maxlength="120"
            :value="step.name"
            :aria-describedby="f.described"
            :aria-invalid="f.invalid"
            @change="set((s) => (s.name = textOf($event)))"
          />
        </FieldRow>
        <FieldRow v-if="choices.length" v-slot="f" label="With" :fault="fault('with')">
          <select
            :id="f.id"
            class="pick"
            :value="step.with"
            :aria-describedby="f.described"
            @change="set((s) => (s.with = textOf($event)))"
          >
            <option v-for="w in choices" :key="w" :value="w">{{ withs[w] }}</option>
          </select>
        </FieldRow>
        <div class="pair">
          <FieldRow v-slot="f" label="Set-up, min" :fault="fault('setupMinutes')">
            <input
              :id="f.id"
              class="pick"
              inputmode="decimal"
              :value="step.setupMinutes"
              :aria-describedby="f.described"
              :aria-invalid="f.invalid"
              @change="set((s) => (s.setupMinutes = numberOf($event)))"
            />
          </FieldRow>
          <FieldRow v-slot="f" label="Then a piece, min" :fault="fault('minutesPerPiece')">
            <input
              :id="f.id"
              class="pick"
              inputmode="decimal"
              :value="step.minutesPerPiece"
              :aria-describedby="f.described"
              :aria-invalid="f.invalid"
              @change="set((s) => (s.minutesPerPiece = numberOf($event)))"
            />
          </FieldRow>
          <FieldRow v-slot="f" label="Come through, %" :fault="fault('yield')">
            <input
              :id="f.id"
              class="pick"
              inputmode="decimal"
              :value="Math.round(step.yield * 1000) / 10"
              :aria-describedby="f.described"
              :aria-invalid="f.invalid"
              @change="set((s) => (s.yield = numberOf($event) / 100))"
            />
          </FieldRow>
        </div>
        <label v-if="mayBeInside" class="tick">
          <input
            type="checkbox"
            :checked="Boolean(step.inside)"
            @change="goInside(($event.target as HTMLInputElement).checked)"
          />
          Done while “{{ host!.name }}” rests
        </label>
        <p v-if="fault('inside')" class="bad" role="alert">{{ fault('inside') }}</p>
        <template v-if="!step.inside && !last">
          <label class="tick">
            <input
              type="checkbox"
              :checked="Boolean(step.rest)"
              @change="hasRest(($event.target as HTMLInputElement).checked)"
            />
            Rests afterwards
          </label>
          <template v-if="step.rest">
            <div class="pair">
              <FieldRow v-slot="f" label="Never under" :fault="unread.floor || fault('rest.floor')">
                <input
                  :id="f.id"
                  class="pick"
                  :value="typed.floor"
                  :aria-describedby="f.described"
                  :aria-invalid="f.invalid"
                  @change="setRest('floor', $event)"
                />
              </FieldRow>
              <FieldRow v-slot="f" label="Usually" :fault="unread.usual || fault('rest.usual')">
                <input
                  :id="f.id"
                  class="pick"
                  :value="typed.usual"
                  :aria-describedby="f.described"
                  :aria-invalid="f.invalid"
                  @change="setRest('usual', $event)"
                />
              </FieldRow>
              <FieldRow v-slot="f" label="At most" :fault="unread.ceiling || fault('rest.ceiling')">
                <input
                  :id="f.id"
                  class="pick"
                  :value="typed.ceiling"
                  placeholder="no limit"
                  :aria-describedby="f.described"
                  :aria-invalid="f.invalid"
                  @change="setRest('ceiling', $event)"
                />
              </FieldRow>
            </div>
            <div class="pair">
              <FieldRow v-slot="f" label="To" :fault="fault('rest.kind')">
                <select
                  :id="f.id"
                  class="pick"
                  :value="step.rest.kind"
                  @change="set((s) => (s.rest!.kind = textOf($event) as Schemas['Rest']['kind']))"
                >
                  <option v-for="(name, kind) in restKinds" :key="kind" :value="kind">{{ name }}</option>
                </select>
              </FieldRow>
              <FieldRow v-slot="f" label="Rack places a piece" :fault="fault('rest.rack')">
                <input
                  :id="f.id"
                  class="pick"
                  type="number"
                  min="0"
                  max="100"
                  :value="step.rest.rack"
                  :aria-describedby="f.described"
                  :aria-invalid="f.invalid"
                  @change="set((s) => (s.rest!.rack = Math.round(numberOf($event))))"
                />
              </FieldRow>
            </div>
          </template>
        </template>
      </div>
      <div class="col">
        <h3>What it uses</h3>
        <div v-for="(u, i) in step.uses ?? []" :key="i" class="use">
          <select
            class="pick"
            :value="u.material"
            :aria-label="`Material ${i + 1}`"
            @change="setUse(i, (x) => (x.material = textOf($event)))"
          >
            <option v-for="m in materials ?? []" :key="m.materialKey" :value="m.materialKey">{{ m.name }}</option>
          </select>
          <input
            class="pick"
            inputmode="decimal"
            :value="u.quantity"
            :aria-label="`How much of material ${i + 1}`"
            @change="setUse(i, (x) => (x.quantity = numberOf($event)))"
          />
          <select
            class="pick"
            :value="u.per"
            :aria-label="`Material ${i + 1} is counted by`"
            @change="per(i, textOf($event))"
          >
            <option value="piece">{{ unit(u.material) }} a piece</option>
            <option value="batch">{{ unit(u.material) }} a batch</option>
            <option value="coat">coats</option>
          </select>
          <button
            class="word"
            type="button"
            :aria-label="`Take material ${i + 1} out`"
            @click="set((s) => s.uses!.splice(i, 1))"
          >
            Out
          </button>
          <div v-if="u.per === 'coat'" class="coat">
            <label v-for="face in ['picture', 'face', 'back', 'edge']" :key="face" class="tick small">
              <input
                type="checkbox"
                :checked="u.faces?.includes(face)"
                @change="
                  setUse(
                    i,
                    (x) =>
                      (x.faces = ($event.target as HTMLInputElement).checked
                        ? [...(x.faces ?? []), face]
                        : (x.faces ?? []).filter((o) => o !== face)),
                  )
                "
              />{{ face }}
            </label>
            <label class="film"
              >film
              <input
                class="pick"
                inputmode="decimal"
                :value="u.filmMm"
                @change="setUse(i, (x) => (x.filmMm = numberOf($event)))"
              />
              mm</label
            >
          </div>
          <p
            v-if="
              fault(`uses[${i}].material`) ||
              fault(`uses[${i}].quantity`) ||
              fault(`uses[${i}].faces`) ||
              fault(`uses[${i}].filmMm`)
            "
            class="bad"
            role="alert"
          >
            {{
              fault(`uses[${i}].material`) ||
              fault(`uses[${i}].quantity`) ||
              fault(`uses[${i}].faces`) ||
              fault(`uses[${i}].filmMm`)
            }}
          </p>
        </div>
        <button
          class="word left"
          type="button"
          @click="
            set(
              (s) =>
                (s.uses = [
                  ...(s.uses ?? []),
                  { material: materials?.[0]?.materialKey ?? 'varnish', quantity: 1, per: 'piece' },
                ]),
            )
          "
        >
          Add a material
        </button>
        <fieldset>
          <legend>Pieces can come out good, or</legend>
          <label v-for="o in outcomes" :key="o" class="tick small">
            <input
              type="checkbox"
              :checked="chosen.includes(o)"
              :disabled="Boolean(step.inside)"
              @change="outcome(o, ($event.target as HTMLInputElement).checked)"
            />{{ o }}
          </label>
        </fieldset>
        <fieldset>
          <legend>Has to itself</legend>
          <label v-for="(name, place) in places" :key="place" class="tick small">
            <input
              type="checkbox"
              :checked="step.holds?.includes(place)"
              @change="hold(place, ($event.target as HTMLInputElement).checked)"
            />{{ name }}
          </label>
        </fieldset>
        <fieldset v-if="step.do === 'seal'">
          <legend>This coat</legend>
          <label class="tick small"
            ><input
              type="checkbox"
              :checked="step.coversEdges"
              @change="set((s) => (s.coversEdges = ($event.target as HTMLInputElement).checked))"
            />goes over the edge</label
          >
          <label class="sheen"
            >dries
            <select
              class="pick"
              :value="step.sheen ?? ''"
              @change="set((s) => (s.sheen = textOf($event) || undefined))"
            >
              <option value="">not said</option>
              <option v-for="x in sheens" :key="x" :value="x">{{ x }}</option>
            </select>
          </label>
          <label class="tick small"
            ><input
              type="checkbox"
              :checked="step.foodSafe"
              @change="set((s) => (s.foodSafe = ($event.target as HTMLInputElement).checked))"
            />is labelled food-safe</label
          >
        </fieldset>
      </div>
      <div class="col">
        <FieldRow v-slot="f" label="Checklist, a line each" :fault="fault('checklist')">
          <textarea
            :id="f.id"
            class="pick"
            rows="6"
            :value="step.checklist?.join('\n')"
            :aria-describedby="f.described"
            @change="set((s) => (s.checklist = lines($event)))"
          />
        </FieldRow>
        <FieldRow v-slot="f" label="Your own cautions, a line each" :fault="fault('cautions')">
          <textarea
            :id="f.id"
            class="pick"
            rows="2"
            :value="step.cautions?.join('\n')"
            :aria-describedby="f.described"
            @change="set((s) => (s.cautions = lines($event)))"
          />
        </FieldRow>
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
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.acts .side {
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
.pair {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(84px, 1fr));
  gap: 8px;
  align-items: end;
}
.tick {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 36px;
}
.tick input {
  width: 20px;
  height: 20px;
  accent-color: var(--glaze);
}
.small {
  display: inline-flex;
  margin-right: 14px;
  min-height: 30px;
}
.use {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(56px, 0.7fr) minmax(0, 1.3fr) auto;
  gap: 6px;
  align-items: center;
}
.use .pick {
  padding: 4px 6px;
}
.coat,
.use .bad {
  grid-column: 1 / -1;
}
.sheen .pick {
  display: inline-block;
  width: auto;
  min-height: 32px;
  margin-right: 12px;
}
.film {
  white-space: nowrap;
}
.film .pick {
  display: inline-block;
  width: 64px;
}
.left {
  justify-self: start;
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
textarea {
  resize: vertical;
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
  .tick,
  .acts .side {
    min-height: 48px;
  }
}
</style>
