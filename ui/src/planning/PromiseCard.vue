<script setup lang="ts">
import { duration } from '../shared/reading'
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import { amount, money } from '../shared/money'
import RecipeBars from '../shared/RecipeBars.vue'
import MoveList from './MoveList.vue'
import { addDays, dateOf, dayName, moment, timeOn } from '../shared/time'
import { oftenInTime } from './often'
import { spare } from '../orders/readiness'

// Whether the date can be held, and what the order earns.
// asking tells that the answer to what was typed last is still to come.
const props = defineProps<{ promise: Schemas['Promise']; asking: boolean; daysOnTheWay: number }>()
const emit = defineEmits<{ day: [day: string]; quantity: [line: number, quantity: number] }>()

const late = computed(() => props.promise.state === 'late' || props.promise.state === 'unplanned')
const heading = computed(() => {
  const p = props.promise
  if (!p.readyAt) return 'Finds no place in the plan'
  const at = moment(p.readyAt, thisMinute.value)
  if (p.fromShelf > 0 && p.fromShelf === p.lines.reduce((n, l) => n + l.quantity, 0)) return 'Ready now, from the shelf'
  if (!p.due) return `Ready ${at}`
  return p.state === 'late' ? `Not before ${at}` : `Ready ${at}, ${spare(p.spareMinutes)}`
})
const holdUp = computed(() => {
  const p = props.promise
  if (!p.holdUp) return ''
  return p.holdUpUntil ? `Because ${p.holdUp}.` : `${p.holdUp}.`
})
// A day on which what is ready at a moment can be handed over.
const dayFor = (at: string) => {
  const { due } = props.promise
  const day = dateOf(at)
  return due && timeOn(at) > timeOn(due) ? addDays(day, 1) : day
}
const inTime = computed(() => oftenInTime(props.promise.odds?.inTime ?? 0))
// A later day that is surer than the one asked for.
const surer = computed(() => {
  const { odds, due } = props.promise
  if (!odds?.sureOn || !due || odds.inTime >= 0.9 || odds.sureOn <= dateOf(due)) return null
  return odds.sureOn
})
// Who waits for it to be sooner: one order is named in the sentence, several in a list.
type Sooner = Schemas['Sooner']
const waiting = (sooner: Sooner) => sooner.moves.filter((m) => m.later)
function ifOthersWait(sooner: Sooner) {
  const [one, ...others] = waiting(sooner)
  if (!one) return ', if it goes first.'
  if (others.length) return ', if others wait, who still get theirs in time:'
  const day = one.toOn ? dayName(one.toOn, dateOf(thisMinute.value)) : 'a later day'
  return `, if order ${one.number} for ${one.customer} moves to ${day}, which still holds its promise.`
}
const measured = (days: number) => `${days} ${days === 1 ? 'day' : 'days'}`
const broken = computed(() => props.promise.moves.filter((m) => m.breaks))
const later = computed(() => props.promise.moves.filter((m) => m.later && !m.breaks).length)
const chance = computed(() => Math.round(props.promise.remakeChance * 10))
</script>

<template>
  <div class="promise" aria-live="polite" :aria-busy="asking">
    <div class="when" :class="{ late, tight: promise.state === 'tight' }">
      <h2>{{ heading }}</h2>
      <p v-if="promise.state === 'late' && promise.due" class="bad">{{ spare(promise.spareMinutes) }}</p>
      <p v-if="daysOnTheWay && promise.readyAt">
        {{ measured(daysOnTheWay) }} on the way: at the customer’s by
        {{ dayName(addDays(dayFor(promise.readyAt), daysOnTheWay), dateOf(thisMinute)) }} at the soonest.
      </p>
      <p v-if="holdUp" class="quiet">{{ holdUp }}</p>
      <p v-if="promise.shortRests.length" class="quiet">
        It rests shorter than usual for that:
        <template v-for="(r, i) in promise.shortRests" :key="r.after"
          >{{ i ? ', ' : '' }}after {{ r.after.toLowerCase() }} {{ duration(r.planned) }} instead of
          {{ duration(r.usual) }}</template
        >.
      </p>
      <p v-if="promise.readyAtFloor && promise.readyAtFloor !== promise.readyAt" class="quiet">
        <template v-if="!promise.shortRests.length">At usual rests. </template
        >{{ moment(promise.readyAtFloor, thisMinute) }} if every rest is the shortest safe one.
      </p>
      <div v-if="broken.length" class="note brick">
        <p>Taking it breaks {{ broken.length === 1 ? 'a promise' : `${broken.length} promises` }}:</p>
        <MoveList :moves="broken" />
      </div>
      <p v-else class="quiet">
        Breaks nobody’s promise<template v-if="later"
          >; {{ later === 1 ? 'one order is' : `${later} orders are` }} ready on a later day, in time all the
          same</template
        >.
      </p>
      <p v-if="promise.keepsAll">
        {{ moment(promise.keepsAll, thisMinute) }} without breaking anybody’s promise.
        <button class="word" type="button" @click="emit('day', dayFor(promise.keepsAll))">Take that day</button>
      </p>
      <p v-if="promise.odds && promise.due">
        <b>{{ inTime }}.</b>
        <span class="quiet">
          Played {{ promise.odds.runs }} times as things go here: minutes, another round, spoils, a sick day.</span
        >
        <template v-if="surer">
          Nine times in ten: {{ dayName(surer, dateOf(thisMinute)) }}.
          <button class="word" type="button" @click="emit('day', surer)">Take that day</button>
        </template>
      </p>
      <p v-else-if="promise.odds?.sureOn">
        Held nine times in ten: {{ dayName(promise.odds.sureOn, dateOf(thisMinute)) }}.
        <button class="word" type="button" @click="emit('day', promise.odds.sureOn)">Take that day</button>
      </p>
      <div v-for="sooner in promise.sooner" :key="sooner.readyAt">
        <p>
          <b>{{ moment(sooner.readyAt, thisMinute) }}</b>{{ ifOthersWait(sooner) }}
        </p>
        <MoveList v-if="waiting(sooner).length > 1" :moves="waiting(sooner)" />
      </div>
      <p v-if="promise.fromShelf" class="quiet">{{ promise.fromShelf }} from the shelf.</p>
      <p v-for="b in promise.better" :key="b.text" class="note glaze">
        {{ b.text }}
        <button v-if="b.quantity" class="word" type="button" @click="emit('quantity', b.line, b.quantity)">
          Take {{ b.quantity }}
        </button>
        <button v-if="b.dueOn" class="word" type="button" @click="emit('day', b.dueOn)">Take that day</button>
      </p>
    </div>
    <RecipeBars v-for="(l, i) in promise.lines" :key="i" :bars="l.bars" />
    <dl>
      <div v-for="(l, i) in promise.lines" :key="i">
        <dt>
          {{ l.quantity }} × {{ l.product }} at {{ amount(l.unitPrice)
          }}<span class="quiet">, costs you {{ amount(l.unitCost) }} each</span>
        </dt>
      </div>
      <div>
        <dt>In all</dt>
        <dd>
          <b>{{ money(promise.total) }}</b>
        </dd>
      </div>
      <div class="quiet">
        <dt>They cost you</dt>
        <dd>{{ amount(promise.totalCost) }}</dd>
      </div>
      <div v-if="promise.earnedPerHour" class="quiet">
        <dt>An hour earns</dt>
        <dd>{{ amount(promise.earnedPerHour) }}</dd>
      </div>
    </dl>
    <p v-if="chance >= 1" class="note">
      {{ chance >= 10 ? 'Nearly sure' : `About ${chance} in ten` }} that some name must be made twice. Keep spare blanks
      at hand.
    </p>
  </div>
</template>

<style scoped>
.promise {
  display: grid;
  gap: 10px;
}
.when {
  padding: 2px 0 2px 12px;
  border-left: 4px solid var(--glaze);
}
.when.tight {
  border-color: var(--straw);
}
.when.late {
  border-color: var(--brick);
}
dl {
  margin: 0;
}
dl > div {
  display: flex;
  gap: 12px;
  justify-content: space-between;
  padding: 2px 0;
}
dd {
  margin: 0;
  white-space: nowrap;
}
</style>
