<script setup lang="ts">
import { figure } from '../shared/habit'
import { duration } from '../shared/reading'
import { computed, nextTick, ref, watch } from 'vue'
import type { Schemas } from '../api/client'
import { moveAmong } from '../shared/keys'
import LevelMark from './LevelMark.vue'

// The recipe to scale: bars of hands and ribbons of rest, the floor marked, what
// is done inside a rest beneath it, and findings on the step they speak of.
// Widths follow the roots, so that minutes of hands stay visible beside hours of rest.
type Step = Schemas['Step']
const props = defineProps<{ steps: Step[]; findings: Schemas['Finding'][]; handInHand: string[]; selected: string }>()
const emit = defineEmits<{ select: [id: string]; move: [id: string, by: 1 | -1]; remove: [id: string] }>()

const hands = (s: Step) => Math.max(4, Math.sqrt(s.setupMinutes + s.minutesPerPiece * 12))
const rest = (minutes: number) => Math.max(4, Math.sqrt(minutes) * 1.1)
const floorAt = (r: Schemas['Rest']) => `${Math.min(100, (r.floor / Math.max(1, r.usual)) * 100)}%`
const short = (name: string) =>
  name
    .replace('Clear the paper, ', 'Clear, ')
    .replace(' round', '')
    .replace(', first coat', ' 1')
    .replace(', second coat', ' 2')
    .replace('Look and decide', 'Look')
    .replace('Drill the hanging hole', 'Drill')
    .replace('Sand the edges back', 'Edges back')
const worst = (s: Step) => {
  const of = props.findings.filter((f) => f.stepId === s.id && !f.override)
  return ['stop', 'caution', 'tip'].find((l) => of.some((f) => f.level === l))
}
const inside = (s: Step) => props.steps.filter((i) => i.inside === s.id)
const main = computed(() => props.steps.filter((s) => !s.inside))
// The next step follows within minutes: the two are worked as one, piece by piece.
const joined = (s: Step) => s.rest?.ceiling !== undefined && s.rest.ceiling <= 30
const restWords = (r: Schemas['Rest']) =>
  `${r.kind}: never under ${duration(r.floor)}, usually ${duration(r.usual)}${r.ceiling ? `, at most ${duration(r.ceiling)} from the first piece` : ''}`
const spoken = (s: Step) =>
  `${s.name}: set-up ${figure(s.setupMinutes)} min, then ${figure(s.minutesPerPiece)} min a piece${s.rest ? `, rest to ${restWords(s.rest)}` : ''}`
const tab = (s: Step) => (props.selected ? (s.id === props.selected ? 0 : -1) : s === props.steps[0] ? 0 : -1)
const list = ref<HTMLElement | null>(null)

// Arrows move along the strip, with Alt they move the step itself; Delete takes it out.
const held = () => (document.activeElement as HTMLElement | null)?.dataset.step
function onKey(event: KeyboardEvent) {
  const id = held()
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key] as 1 | -1 | undefined
  if (id && event.altKey && by) {
    event.preventDefault()
    emit('move', id, by)
  } else if (id && event.key === 'Delete') {
    event.preventDefault()
    emit('remove', id)
  } else if (!event.altKey) {
    moveAmong(event, list.value)
  }
}
// A step that has moved keeps the focus, which it loses as it is put elsewhere in the page.
watch(
  () => props.steps,
  async () => {
    const id = list.value?.contains(document.activeElement) && held()
    await nextTick()
    if (id) list.value?.querySelector<HTMLElement>(`[data-step="${CSS.escape(id)}"]`)?.focus()
  },
)
</script>

<template>
  <div class="frame">
    <ol ref="list" class="strip" @keydown="onKey">
      <template v-for="s in main" :key="s.id">
        <li class="step" :style="{ flexGrow: hands(s) }">
          <span class="above"><LevelMark v-if="worst(s)" :level="worst(s)!" /></span>
          <button
            type="button"
            class="bar"
            data-among
            :data-step="s.id"
            :tabindex="tab(s)"
            :aria-pressed="selected === s.id"
            :aria-label="spoken(s)"
            :data-tip="spoken(s)"
            @click="emit('select', s.id)"
          />
          <span class="below" aria-hidden="true"
            ><b>{{ short(s.name) }}</b
            ><br />{{ figure(s.minutesPerPiece) }}</span
          >
        </li>
        <li v-if="s.rest" class="rest" :class="{ joined: joined(s) }" :style="{ flexGrow: rest(s.rest.usual) }">
          <span class="above" aria-hidden="true">{{ duration(s.rest.usual) }}</span>
          <span class="ribbon" :data-tip="restWords(s.rest)">
            <i class="hatch" :class="{ closing: s.rest.ceiling }" />
            <i v-if="s.rest.floor < s.rest.usual" class="floor" :style="{ left: floorAt(s.rest) }" />
          </span>
          <span class="below quiet" aria-hidden="true"
            >{{ joined(s) ? 'at once' : s.rest.kind }}<br /><span class="small"
              >≥ {{ duration(s.rest.floor) }}</span
            ></span
          >
          <span v-if="inside(s).length" class="inside">
            <button
              v-for="i in inside(s)"
              :key="i.id"
              type="button"
              data-among
              :data-step="i.id"
              :tabindex="tab(i)"
              :aria-pressed="selected === i.id"
              :aria-label="`${spoken(i)}, done while it rests after ${s.name}`"
              :data-tip="spoken(i)"
              @click="emit('select', i.id)"
            >
              <i /><LevelMark v-if="worst(i)" :level="worst(i)!" />{{ short(i.name) }}
            </button>
          </span>
        </li>
      </template>
    </ol>
    <p class="quiet">
      Under the bars: minutes for each piece; a sitting’s set-up comes on top. Ribbons are usual rests, the mark is the
      floor that is never undercut, a point means the next step must not be late. Pick a step to change it; with the
      keyboard, Alt and an arrow moves it, Delete takes it out.
      <template v-if="handInHand.length">Worked as one, piece by piece: {{ handInHand.join('; ') }}.</template>
    </p>
  </div>
</template>

<style scoped>
.frame {
  position: relative;
  padding: 10px 16px;
  background: var(--sheet);
  border: 1px solid var(--line);
  overflow-x: auto;
}
.strip {
  display: flex;
  gap: 3px;
  min-width: 1080px;
}
.strip li {
  flex-basis: 0;
  min-width: 0;
  display: grid;
  grid-template-rows: 24px 40px auto auto;
  grid-template-columns: minmax(0, 1fr);
  text-align: center;
  font-size: 13px;
  line-height: 1.3;
}
.step {
  min-width: 48px !important;
}
.rest {
  min-width: 44px !important;
}
.above {
  font-weight: 650;
  color: var(--night);
  white-space: nowrap;
}
.bar {
  padding: 0;
  border: 0;
  background: var(--clay);
  cursor: pointer;
}
.bar:hover {
  background: #8f3d24;
}
.bar[aria-pressed='true'] {
  outline: 3px solid var(--ink);
  outline-offset: -3px;
}
.bar:focus-visible,
.inside button:focus-visible {
  outline: 3px solid var(--ink);
  outline-offset: 2px;
}
.ribbon {
  position: relative;
  align-self: center;
}
.ribbon .hatch {
  display: block;
  height: 15px;
}
.ribbon .closing {
  border-radius: 0;
  clip-path: polygon(0 0, 80% 0, 100% 50%, 80% 100%, 0 100%);
}
.joined .ribbon .hatch {
  height: 6px;
}
.floor {
  position: absolute;
  top: -5px;
  width: 2px;
  height: 25px;
  background: var(--ink);
}
.below {
  padding: 5px 1px 0;
  overflow-wrap: anywhere;
}
.inside {
  display: grid;
  gap: 3px;
  margin-top: 6px;
  padding-top: 6px;
  border-top: 2px solid var(--edge);
}
.inside button {
  display: flex;
  align-items: center;
  gap: 6px;
  min-height: 24px;
  padding: 0 2px;
  border: 0;
  background: none;
  font-size: 13px;
  text-align: left;
  cursor: pointer;
}
.inside button[aria-pressed='true'] {
  outline: 2px solid var(--ink);
}
.inside i {
  width: 22px;
  height: 14px;
  flex: none;
  background: var(--clay);
}
.frame > p {
  margin-top: 8px;
}
@media (forced-colors: active) {
  .bar,
  .hatch,
  .inside i {
    forced-color-adjust: none;
  }
}
</style>
