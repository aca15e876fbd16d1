<script setup lang="ts">
import CalendarFeed from './CalendarFeed.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import { useGradual } from '../shared/idle'
import { duration } from '../shared/reading'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { thisMinute } from '../shared/clock'
import { addDays, dateOf, dayName, longDay, minutesBetween, moment, shortDay } from '../shared/time'
import { runs, seesBusiness } from '../shared/settings'
import { useTray } from '../shared/tray'
import { useNarrow } from '../shared/useNarrow'
import DayStrip from './DayStrip.vue'
import StepMoves from './StepMoves.vue'
import { useFrom, usePicked, usePlan, type Day, type Readiness } from './queries'
import { promisesOf } from './head'
import type { Moved } from './dragging'
import { scaleOf, workingWindow } from './scale'
import { inDays } from './strip'
import { dropThought, hold, thinking, useSupposed } from './whatIf'
import PageHead from '../shared/PageHead.vue'

const route = useRoute()
const router = useRouter()
const { open } = useTray()
const narrow = useNarrow(640)
const from = useFrom()
const { data: real, error } = usePlan(from)
// While something is supposed the days are shown as they would be.
const { data: supposed } = useSupposed(() => from.value)
const plan = computed(() => (thinking.value ? (supposed.value?.plan ?? real.value) : real.value))
// A helper who is only supposed cannot hold anything yet.
const supposedFrom = 2 ** 51
function suppose({ group, start, personId }: Moved) {
  const by = personId < supposedFrom ? personId : undefined
  const delta = start - Date.parse(group.start)
  for (const h of group.hands) {
    const at = new Date(Date.parse(h.start) + delta).toISOString()
    hold({ lotId: h.lotId, step: h.step, at, personId: by, said: `${h.name}, ${h.pieces} × ${h.product}` })
  }
  open('what-if')
}

// The days as they are drawn. Of open demand only the hands are: its rests are not yet anybody's.
const rows = computed(() => {
  const { days = [], hands = [], rests = [] } = plan.value ?? {}
  const window = workingWindow(days)
  const handsOf = inDays(days, hands)
  const restsOf = inDays(
    days,
    rests.filter((r) => r.state !== 'tentative'),
  )
  return days.map((day, i) => ({
    day,
    scale: scaleOf(day, window),
    hands: handsOf[i]!,
    rests: restsOf[i]!,
    // of hands that begin on it
    minutes: handsOf[i]!.filter((h) => h.start >= day.start && h.start < day.end).reduce(
      (sum, h) => sum + minutesBetween(h.start, h.end),
      0,
    ),
  }))
})
const picked = usePicked(() => plan.value)
const week = computed(() => {
  const days = plan.value?.days
  if (!days?.length || !from.value) return 'This week'
  return `${longDay(days[0]!.date)} to ${longDay(days[days.length - 1]!.date)}`
})
const promises = computed(() => promisesOf(week.value, plan.value?.days ?? []))
const turn = (days: number) => {
  const first = plan.value?.days[0]?.date
  if (first) router.push({ query: { ...route.query, from: addDays(first, days) } })
}
const today = () => router.push({ query: { ...route.query, from: undefined } })

const drawn = useGradual(() => plan.value?.days.length ?? 0, 2)
const isToday = (day: Day) => thisMinute.value >= Date.parse(day.start) && thisMinute.value < Date.parse(day.end)
const past = (day: Day) => Date.parse(day.end) <= thisMinute.value
const mostBroken = 3
const words: Record<Readiness['state'], string> = {
  ready: 'ready',
  spare: '',
  tight: 'tight',
  late: 'late',
  unplanned: 'no place',
  planning: '',
  closed: '',
}
const pressing = (r: Readiness) => ['tight', 'late', 'unplanned'].includes(r.state)
</script>

<template>
  <PageHead :name="plan ? promises.said : 'The plan'">
    <template #said>
      <ul v-if="promises.broken.length" class="broken">
        <li v-for="d in promises.broken.slice(0, mostBroken)" :key="d.orderId">
          {{ d.customer ? `${d.customer}’s` : `Order ${d.number}:` }} {{ d.pieces }}
          {{ d.pieces === 1 ? 'piece' : 'pieces'
          }}<template v-if="d.readiness.at"
            >: {{ moment(d.readiness.at, thisMinute) }} instead of
            {{ dayName(dateOf(d.readiness.due), dateOf(thisMinute)) }}.</template
          ><template v-else
            >, due {{ dayName(dateOf(d.readiness.due), dateOf(thisMinute)) }}: no place in the plan.</template
          >
          {{ ' '
          }}<button v-if="seesBusiness" class="word" type="button" @click="open('order', d.orderId)">
            See the ways out<span class="spoken"> for {{ d.customer }}</span>
          </button>
        </li>
        <li v-if="promises.broken.length > mostBroken">
          and {{ promises.broken.length - mostBroken }} more, marked beside their days
        </li>
      </ul>
    </template>
    <!-- with what the head says, so that it does not push them down -->
    <template v-if="plan || error" #acts>
      <div class="turn">
        <button class="side" type="button" @click="turn(-7)">Week before</button>
        <button v-if="from" class="side" type="button" @click="today">From today</button>
        <button class="side" type="button" @click="turn(7)">Week after</button>
        <template v-if="seesBusiness">
          <button class="side" type="button" @click="open('what-if')">What if …</button>
          <button class="side" type="button" @click="open('suggestions')">Suggested</button>
        </template>
        <button v-if="runs" class="act" type="button" @click="open('new-batch')">Make up a batch</button>
      </div>
    </template>
  </PageHead>
  <p v-if="error" class="note brick">
    {{ error.message }} <button class="word" type="button" @click="today">Show this week</button>
  </p>
  <p v-if="thinking" class="note supposing" role="status">
    <b>What if:</b> the plan as it would be. Nothing is changed.
    <button class="word" type="button" @click="open('what-if')">Show what is supposed</button>
    <button class="word" type="button" @click="dropThought">Drop it</button>
  </p>
  <StepMoves v-if="!from" />
  <ul v-if="plan?.unplanned.length" class="unplanned">
    <li v-for="(u, i) in plan.unplanned" :key="i" class="note brick">
      {{ u.pieces }} × {{ u.product }}<template v-if="u.batch">, batch {{ u.batch }}, lot {{ u.lot }}</template
      >, has no place in the plan: {{ u.reason }}.
    </li>
  </ul>
  <EmptyNote v-if="plan && !from && plan.hands.length === 0 && plan.rests.length === 0">
    Each line here is a day from 05:00 to 05:00: hands above, rests below, what is due at its end. Nothing is planned
    yet. Make up a batch, and its steps find their places in your hours.
  </EmptyNote>
  <div v-if="plan" class="rows">
    <div
      v-for="({ day, scale, hands, rests, minutes }, i) in rows"
      :key="day.date"
      class="row"
      :class="{ past: past(day) }"
    >
      <div class="day">
        <b :class="{ now: isToday(day) }">{{ shortDay(day.date) }}</b>
        <span class="quiet">{{ minutes ? `${duration(minutes)} of hands` : day.open.length ? 'free' : 'closed' }}</span>
      </div>
      <!-- a day that is moved sideways, with nothing in it that the keyboard reaches, is reached itself -->
      <div
        class="scroller"
        :tabindex="narrow && hands.length === 0 ? 0 : undefined"
        :role="narrow && hands.length === 0 ? 'region' : undefined"
        :aria-label="narrow && hands.length === 0 ? longDay(day.date) : undefined"
      >
        <DayStrip
          :day="day"
          :hands="hands"
          :rests="rests"
          :scale="scale"
          :now="thisMinute"
          :rack-places="plan.rackPlaces"
          :own="picked"
          :axis="i === 0 ? 'hours' : undefined"
          :label="longDay(day.date)"
          :awaited="i >= drawn"
          movable
          @move="suppose"
          @pick="open('lot', $event)"
          @work="open('work', $event)"
          @ready="open('ready', $event)"
        />
      </div>
      <ul class="dues" :aria-label="`Due on ${longDay(day.date)}`">
        <li v-for="d in day.dues" :key="d.orderId">
          <component
            :is="seesBusiness ? 'button' : 'span'"
            :type="seesBusiness ? 'button' : undefined"
            class="due"
            :class="{ pressing: pressing(d.readiness) }"
            @click="seesBusiness && open('order', d.orderId)"
          >
            <b>{{ d.pieces }}</b> {{ d.customer ?? `order ${d.number}` }} <b>{{ words[d.readiness.state] }}</b>
          </component>
        </li>
      </ul>
    </div>
  </div>
  <div v-else class="rows" aria-busy="true"><div v-for="i in 7" :key="i" class="ghost" /></div>
  <p v-if="plan" class="legend quiet">
    <i class="solid" /> hands <i class="dashed" /> wanted, not made up into a batch <i class="hatch" /> how full the
    rack is, its limit dotted <i class="ring drawn" /> rests end <i class="wedge drawn" /> the next step must begin ·
    today is {{ longDay(dateOf(thisMinute)) }}
  </p>
  <p v-if="plan" class="out">
    <a class="word" :href="`/api/plan/week.pdf${from ? `?from=${from}` : ''}`" download>This week on paper (PDF)</a>
    <a class="word" href="/api/plan/calendar.ics" download>For a calendar (iCalendar)</a>
  </p>
  <CalendarFeed v-if="plan && runs" />
</template>

<style scoped>
.turn {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.turn button {
  min-height: 34px;
  padding: 0 12px;
}
.supposing {
  display: flex;
  flex-wrap: wrap;
  gap: 0 16px;
  margin-bottom: 10px;
}
.out {
  display: flex;
  flex-wrap: wrap;
  gap: 0 20px;
  margin-top: 6px;
}
.unplanned {
  display: grid;
  gap: 6px;
  margin-bottom: 10px;
}
.rows {
  display: grid;
  gap: 10px;
}
.row {
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr) 168px;
  gap: 0 10px;
  align-items: end;
}
.day {
  align-self: center;
  display: grid;
  line-height: 1.25;
}
.day .now {
  justify-self: start;
  margin-bottom: 4px;
  border-bottom: 3px solid var(--clay);
  line-height: 1.2;
}
.past {
  opacity: 0.75;
}
.dues {
  align-self: center;
  display: grid;
  gap: 4px;
}
.due {
  width: 100%;
  min-height: 28px;
  padding: 2px 8px 2px 16px;
  border: 0;
  background: var(--glaze-wash);
  color: #1f4f4b;
  font-size: 14px;
  line-height: 1.25;
  text-align: left;
  cursor: pointer;
  clip-path: polygon(10px 0, 100% 0, 100% 100%, 10px 100%, 0 50%);
}
.due.pressing {
  background: #f3dcd3;
  color: var(--brick);
}
.due:focus-visible {
  clip-path: none;
}
.ghost {
  height: 62px;
  background: var(--sheet);
}
.legend {
  margin-top: 14px;
}
.legend i {
  display: inline-block;
  width: 26px;
  height: 12px;
  margin: 0 4px 0 12px;
  vertical-align: -1px;
}
.legend i:first-child {
  margin-left: 0;
}
.legend .solid {
  background: var(--clay);
}
.legend .dashed {
  border: 1.5px dashed var(--clay);
}
.legend .hatch {
  height: 9px;
  border-radius: 0;
}
.legend .ring {
  width: 12px;
  border: 2.5px solid var(--glaze);
  border-radius: 50%;
}
.legend .wedge {
  width: 0;
  height: 0;
  border: 6px solid transparent;
  border-top: 9px solid var(--brick);
  border-bottom: 0;
}
@media (max-width: 640px) {
  .row {
    grid-template-columns: minmax(0, 1fr);
    gap: 4px;
  }
  .day {
    display: flex;
    gap: 10px;
    align-items: baseline;
  }
  .scroller {
    overflow-x: auto;
  }
  .scroller > * {
    width: 760px;
  }
  .due,
  .turn button {
    min-height: 48px;
  }
}
</style>
