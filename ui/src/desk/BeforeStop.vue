<script setup lang="ts">
import { computed } from 'vue'
import { useAnswer } from '../api/answers'
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import OrderLink from '../shared/OrderLink.vue'
import { duration } from '../shared/reading'
import { clock, dateOf, dayName, moment } from '../shared/time'
import { useTray } from '../shared/tray'

// What to do before hands are over, so that the night does the resting, and what is lost when it is left.
const props = defineProps<{ today: Schemas['Today']; busy: boolean }>()
const emit = defineEmits<{ take: [lots: { lotId: number; step: number }[]] }>()
const { open } = useTray()
const { data: stop } = useAnswer('/api/before-stop', undefined, { keep: true })

// Like work stands together; what of it is ready can be taken up at once.
const works = computed(() => {
  const ready = new Set(props.today.ready.flatMap((s) => s.lots).map((l) => `${l.lotId}:${l.step}`))
  const groups = new Map<string, Schemas['StopLot'][]>()
  for (const lot of stop.value?.lots ?? []) groups.set(lot.work, [...(groups.get(lot.work) ?? []), lot])
  return [...groups].map(([work, lots]) => ({
    work,
    lots,
    ready: lots.filter((l) => l.next && ready.has(`${l.lotId}:${l.step}`)),
    first: lots[0]!.at,
    from: lots.map((l) => l.restEnd).sort((a, b) => Date.parse(a) - Date.parse(b))[0]!,
    until: lots.map((l) => l.restEnd).sort((a, b) => Date.parse(b) - Date.parse(a))[0]!,
  }))
})
const day = (date: string) => (date ? dayName(date, dateOf(thisMinute.value)) : 'no day yet')
const left = computed(() => {
  const s = stop.value
  if (!s || s.lots.length === 0) return ''
  if (s.loses.length > 0) return ''
  if (s.laterMinutes < 60) return 'Left till hands begin again, it costs next to nothing.'
  return `Left till hands begin again, no promise breaks, but it is ready up to ${duration(s.laterMinutes)} later.`
})
</script>

<template>
  <section class="stop" aria-labelledby="stop">
    <div>
      <h2 id="stop">Before you stop{{ today.closes ? ` at ${clock(today.closes)}` : '' }}</h2>
      <p class="quiet">
        <template v-if="today.handsLeft > 0">
          {{ duration(today.handsLeft) }} of hands left<template v-if="stop?.lots.length"
            >; this takes {{ duration(stop.minutes) }}</template
          >. What is laid by then rests while you sleep.
        </template>
        <template v-else-if="today.opens">Hands are over until {{ moment(today.opens, thisMinute) }}.</template>
        <template v-else>No working hours are left today.</template>
      </p>
    </div>
    <div class="what">
      <ul>
        <li v-for="w in works" :key="w.work">
          <p>
            <b>{{ w.work }}</b>
            <template v-for="(l, i) in w.lots" :key="`${l.lotId}:${l.step}`"
              >{{ i ? ', ' : ' '
              }}<button class="word" type="button" @click="open('lot', l.lotId)">
                {{ l.pieces }} × {{ l.product }}
              </button></template
            >
          </p>
          <p class="quiet">
            planned {{ moment(w.first, thisMinute) }}, rested {{ moment(w.from, thisMinute)
            }}<template v-if="w.until !== w.from"> to {{ moment(w.until, thisMinute) }}</template>
          </p>
          <button v-if="w.ready.length" class="side" type="button" :disabled="busy" @click="emit('take', w.ready)">
            Take up{{ w.ready.length > 1 ? ` ${w.ready.length}` : ''
            }}<span class="spoken"> {{ w.work }}, {{ w.ready.map((l) => l.product).join(', ') }}</span>
          </button>
        </li>
      </ul>
      <p v-if="stop && works.length === 0 && today.handsLeft > 0" class="quiet">
        Nothing that is ready by then would use the night. Make up a batch, and its lay can.
      </p>
      <p v-if="stop?.loses.length" class="loses">
        Left till {{ stop.opens ? moment(stop.opens, thisMinute) : 'hands begin again' }},
        {{ stop.loses.length === 1 ? 'one order is' : `${stop.loses.length} orders are` }} ready later:
        <template v-for="(m, i) in stop.loses" :key="m.orderId"
          >{{ i ? '; ' : '' }}<OrderLink :id="m.orderId" :number="m.number" :customer="m.customer" />
          {{ day(m.toOn) }} instead of {{ day(m.fromOn)
          }}<b v-if="m.toLate && !m.fromLate" class="bad"> and late</b></template
        >.
      </p>
      <p v-else-if="left" class="quiet">{{ left }}</p>
    </div>
  </section>
</template>

<style scoped>
.stop {
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: 226px 1fr;
  gap: 16px;
  padding-top: 10px;
  border-top: 2px solid var(--ink);
}
.what {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 10px;
  min-width: 0;
  overflow-wrap: anywhere;
}
.what .word {
  max-width: 100%;
  text-align: left;
}
.what ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(280px, 100%), 1fr));
  gap: 12px;
}
.what li {
  display: grid;
  gap: 4px;
  align-content: start;
  justify-items: start;
  padding: 8px 12px;
  border: 1px solid var(--line);
  border-left: 3px solid var(--glaze);
  background: var(--sheet);
}
.what .side {
  min-height: 30px;
  padding: 0 12px;
}
.loses {
  padding: 8px 12px;
  border-left: 3px solid var(--night);
}
@media (max-width: 640px), (pointer: coarse) {
  .what .side {
    min-height: 48px;
  }
}
@media (max-width: 640px) {
  .stop {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
