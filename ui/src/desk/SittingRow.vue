<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import { duration } from '../shared/reading'
import TickBox from '../shared/TickBox.vue'
import { dateOf, dayName, moment } from '../shared/time'
import { lastPart } from '../shared/words'
import { useTray } from '../shared/tray'
import ReadyRing from './ReadyRing.vue'

// Like work that can be done in one sitting: one tap takes all of it up, any lot can be left out.
type Lot = Schemas['ReadyLot']
const props = defineProps<{ sitting: Schemas['ReadySitting']; busy: boolean; keyed: boolean }>()
const emit = defineEmits<{ take: [lots: Lot[]] }>()
const { open } = useTray()

// What somebody has said of a lot stays, however often the page is read again.
const said = ref(new Map<string, boolean>())
const keyOf = (l: Lot) => `${l.lotId}:${l.step}`
const joins = (l: Lot) => said.value.get(keyOf(l)) ?? l.joins
const say = (l: Lot, join = false) => (said.value = new Map(said.value).set(keyOf(l), join))
watch(
  () => props.sitting.lots,
  (lots) => {
    const here = new Set(lots.map(keyOf))
    said.value = new Map([...said.value].filter(([key]) => here.has(key)))
  },
)

const joined = computed(() => props.sitting.lots.filter(joins))
const pieces = computed(() => joined.value.reduce((n, l) => n + l.pieces.length, 0))
const apart = computed(() => joined.value.reduce((n, l) => n + l.minutes, 0))
const minutes = computed(
  () => apart.value - joined.value.reduce((n, l) => n + l.setup, 0) + Math.max(0, ...joined.value.map((l) => l.setup)),
)
const told = computed(() => {
  const n = joined.value.length
  if (n === 0) return 'none of them'
  const saved = apart.value - minutes.value
  return `${n} ${n === 1 ? 'lot' : 'lots'} · ${pieces.value} ${pieces.value === 1 ? 'piece' : 'pieces'} · ${duration(minutes.value)}${saved > 0 ? `, ${saved} min less than apart` : ''}`
})

// detail is the one thing to know of a lot before it is taken up.
function detail(l: Lot): { text: string; bad: boolean } {
  const own = l.stepName === props.sitting.stepName ? '' : lastPart(l.stepName)
  const also = (text: string, bad = false) => ({ text: [own, text].filter(Boolean).join(', '), bad })
  if (l.missed) return also(`${l.missed.why} ${l.missed.fix}`, true)
  if (l.mustStartBy) return also(`by ${moment(l.mustStartBy, thisMinute.value)}`, true)
  if (l.late) {
    const due = l.due ? `, ${dayName(dateOf(l.due), dateOf(thisMinute.value))}` : ''
    return also(`will miss its promise${due}`, true)
  }
  if (l.pilot) return also('pilot piece: the others wait for it')
  if (l.whileResting) return also(`while it rests, best until ${moment(l.whileResting, thisMinute.value)}`)
  if (l.bestFrom) return also(`safe now, best from ${moment(l.bestFrom, thisMinute.value)}`)
  return also('')
}
const rows = computed(() => props.sitting.lots.map((lot) => ({ lot, in: joins(lot), ...detail(lot) })))
const closing = computed(() => props.sitting.lots.some((l) => l.mustStartBy))
</script>

<template>
  <li class="row">
    <ReadyRing :closing="closing" />
    <b class="head">{{ sitting.stepName }}</b>
    <button
      class="side"
      type="button"
      :disabled="busy || joined.length === 0"
      :data-key="keyed ? 'take' : undefined"
      @click="emit('take', joined)"
    >
      Take up {{ joined.length === sitting.lots.length ? `all ${joined.length}` : joined.length
      }}<span class="spoken"> of {{ sitting.stepName }}</span>
    </button>
    <p class="quiet told" aria-live="polite">{{ told }}</p>
    <ul class="lots" :aria-label="`Lots of ${sitting.stepName}`">
      <li v-for="r in rows" :key="r.lot.lotId">
        <TickBox :model-value="r.in" @update:model-value="say(r.lot, $event)">
          {{ r.lot.pieces.length }} × {{ r.lot.product
          }}<span class="spoken">, {{ r.lot.stepName }}, batch {{ r.lot.batch }}, lot {{ r.lot.lot }}</span>
        </TickBox>
        <span class="detail" :class="r.bad ? 'bad' : 'quiet'">{{ r.text }}</span>
        <button class="word" type="button" @click="open('lot', r.lot.lotId)">
          batch {{ r.lot.batch }}<span class="spoken">, lot {{ r.lot.lot }} of {{ r.lot.product }}</span>
        </button>
      </li>
    </ul>
  </li>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr) auto;
  gap: 0 10px;
  padding: 6px 0 7px;
  line-height: 1.35;
  border-bottom: 1px solid var(--line);
}
.side {
  align-self: start;
  min-height: 28px;
  padding: 0 12px;
}
.told {
  grid-column: 2 / -1;
}
.lots {
  grid-column: 2 / -1;
  overflow-wrap: anywhere;
}
.lots li {
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
  align-items: center;
}
.detail {
  flex: 1 1 0;
  min-width: 90px;
  font-size: 14px;
}
.word {
  font-size: 13px;
  color: var(--soft);
}
@media (min-width: 641px) and (pointer: fine) {
  .lots .tick.tick {
    min-height: 28px;
  }
}
@media (max-width: 640px), (pointer: coarse) {
  .side {
    min-height: 48px;
  }
}
@media (max-width: 640px) {
  .lots .tick.tick {
    flex: 1 1 0;
  }
  .detail {
    order: 1;
    flex-basis: 100%;
    margin-top: -8px;
    padding: 0 0 6px 30px;
  }
  .detail:empty {
    display: none;
  }
}
</style>
