<script setup lang="ts">
import TroubleNote from '../shared/TroubleNote.vue'
import HourField from '../shared/HourField.vue'
import OfferField from '../shared/OfferField.vue'
import { plainDecimal } from '../shared/reading'
import { role } from '../shared/settings'
import { watch } from 'vue'
import { habitOf, signOf, timeOfDay } from '../shared/habit'
import { work } from '../shared/words'
import HabitFields from './HabitFields.vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import ClashNote from '../shared/ClashNote.vue'
import { useDraft } from '../shared/draft'
import DeviceSettings from '../shared/DeviceSettings.vue'
import { amount, unit } from '../shared/money'
import SaveTrouble from '../shared/SaveTrouble.vue'
import TickBox from '../shared/TickBox.vue'
import { say } from '../shared/toast'
import { useWorkshop } from '../shared/useWorkshop'
import InTurn from '../shared/InTurn.vue'
import PageHead from '../shared/PageHead.vue'
import PersonHours from './PersonHours.vue'
import MachineFields from './MachineFields.vue'
import RackFields from './RackFields.vue'
import RoomCard from './RoomCard.vue'
import TimesFields from './TimesFields.vue'
import { minuteOf, timeOf } from '../shared/minutes'
import FieldPair from '../shared/FieldPair.vue'
import PickField from '../shared/PickField.vue'
import TextField from '../shared/TextField.vue'

const { workshop } = useWorkshop()
const { data: health } = useAnswer('/api/health')
const { act, busy, trouble, fault } = useAct()

const { form, version, clashes, keepMine, takeTheirs, fill } = useDraft(
  () => workshop.value,
  ({ labourPerHour, overheadPerHour, people, racks, ...w }) => ({
    ...w,
    racks: racks.map((r) => ({ ...r, longestMm: r.longestMm === undefined ? '' : String(r.longestMm) })),
    people: people.map((p) => ({ ...p, hourCosts: p.hourCosts ? amount(p.hourCosts) : '' })),
    version: 0,
    labourPerHour: amount(labourPerHour),
    overheadPerHour: amount(overheadPerHour),
  }),
)
// A new studio begins with its owner, in the zone and with the habits of this device.
const begin = (form: Pick<Schemas['Workshop'], 'timeZone' | 'habit' | 'currency'> & { people: unknown[] }) => {
  if (form.people.length > 0) return
  add()
  if (form.timeZone === 'Etc/UTC') form.timeZone = Intl.DateTimeFormat().resolvedOptions().timeZone
  form.habit = habitOf(navigator.language, form.currency)
}
// The sign goes with the currency, as long as it is the currency's own.
function trade(code: string) {
  const f = form.value!
  const own = f.habit.currencySign === '' || f.habit.currencySign === signOf(f.currency, navigator.language)
  f.currency = code
  if (own && /^[A-Z]{3}$/.test(code)) f.habit.currencySign = signOf(code, navigator.language)
}
const names = {
  name: 'Name',
  timeZone: 'Time zone',
  currency: 'Currency',
  'habit.clock': 'The clock',
  'habit.firstWeekday': 'A week begins on',
  'habit.dateOrder': 'Dates are written',
  'habit.decimalSign': 'Decimals have',
  'habit.currencySign': 'The currency’s sign',
  'habit.signFirst': 'The sign stands first',
  units: 'Measures',
  handOverMinute: 'Due orders ready by',
  sittingMinutes: 'Longest sitting',
  racks: 'Racks',
  machines: 'Machines',
  preferences: 'Times you like for some work',
  coldNights: 'Rests in cold air are planned longer',
  labourPerHour: 'Your hour costs',
  overheadPerHour: 'Room and tools an hour',
  taxIsCost: 'Tax on what you buy is a cost',
  confidence: 'How sure to be of enough good pieces',
  people: 'People and their hours',
}
const inWords = (field: string, value: unknown) => {
  if (field === 'handOverMinute') return timeOfDay(timeOf(value as number))
  if (field === 'racks')
    return (value as Schemas['Rack'][])
      .map((r) => `${r.name}, ${r.places} ${r.places === 1 ? 'place' : 'places'}`)
      .join('; ')
  if (field === 'machines') return (value as Schemas['Machine'][]).map((m) => `${m.machine} ${m.count}`).join('; ')
  if (field === 'preferences') return (value as Schemas['Preference'][]).map((p) => work[p.stage]).join('; ')
  if (field !== 'people') return String(value)
  return (value as Schemas['Person'][])
    .map((p) => `${p.name}, ${p.hours.length} stretches of hours, ${p.daysOff.length} times off`)
    .join('; ')
}

const zones = Intl.supportedValuesOf('timeZone')
const add = () =>
  form.value?.people.push({
    id: 0,
    name: '',
    hours: [1, 2, 3, 4, 5].map((weekday) => ({ weekday, fromMinute: 540, toMinute: 900 })),
    daysOff: [],
    extraHours: [],
    hourCosts: '',
    pacePercent: 100,
    leaves: [],
  })

watch(form, (f) => f && begin(f), { immediate: true })

async function save() {
  const { labourPerHour, overheadPerHour } = form.value!
  const rates = { labourPerHour: plainDecimal(labourPerHour), overheadPerHour: plainDecimal(overheadPerHour) }
  const people = form.value!.people.map((p) => ({ ...p, hourCosts: plainDecimal(p.hourCosts) || undefined }))
  const racks = form.value!.racks.map((r) => {
    const longest = plainDecimal(r.longestMm)
    // What is no number is sent as one that the server refuses, beside its field.
    return { ...r, longestMm: longest === '' ? undefined : Number(longest) || 0 }
  })
  const body = { ...form.value!, ...rates, people, racks, version: version.value }
  const saved = await act(() => answerOf(api.PUT('/api/workshop', { body })))
  if (!saved) return
  fill(saved)
  say({ text: 'Saved.' })
}
</script>

<template>
  <PageHead name="Workshop">
    <template #acts>
      <RouterLink class="word" to="/workshop/access">Who may come in</RouterLink>
      <RouterLink class="word" to="/workshop/trail">Who did what</RouterLink>
      <RouterLink class="word" :class="{ bad: health?.well === false }" to="/workshop/health">{{
        health?.well === false ? 'Not all is well' : 'Is all well?'
      }}</RouterLink>
    </template>
  </PageHead>
  <form v-if="form" class="workshop" novalidate @submit.prevent="save">
    <div class="column">
      <section aria-labelledby="people">
        <h2 id="people">People and their hours</h2>
        <p class="quiet">Hands are planned inside these hours only. Rests run through the night.</p>
        <InTurn v-for="(_, i) in form.people" :key="i">
          <PersonHours
            v-model="form.people[i]!"
            :fault="(f: string) => fault(`people[${i}].${f}`)"
            :removable="form.people.length > 1"
            @remove="form.people.splice(i, 1)"
          />
        </InTurn>
        <InTurn>
          <p v-if="form.people.length === 0" class="note">
            Nobody works here yet, so nothing can be planned. Begin with yourself.
          </p>
          <p v-if="fault('people')" class="bad" role="alert">{{ fault('people') }}</p>
          <button class="side" type="button" @click="add">Add a person</button>
        </InTurn>
      </section>
      <InTurn><RoomCard /></InTurn>
      <InTurn>
        <section aria-labelledby="device">
          <h2 id="device">This device</h2>
          <DeviceSettings />
        </section>
      </InTurn>
    </div>
    <div class="column">
      <InTurn>
        <section aria-labelledby="studio">
          <h2 id="studio">The studio</h2>
          <TextField v-model="form.name" label="Name" :fault="fault('name')" maxlength="120" />
          <OfferField
            v-model="form.timeZone"
            label="Time zone"
            :fault="fault('timeZone')"
            :offers="zones"
            maxlength="64"
          />
          <FieldPair>
            <PickField
              v-model="form.units"
              label="Measures"
              :fault="fault('units')"
              :choices="[
                { value: 'metric', name: 'metric' },
                { value: 'us', name: 'US' },
              ]"
            />
            <TextField
              label="Currency"
              :model-value="form.currency"
              :fault="fault('currency')"
              maxlength="3"
              @update:model-value="trade(String($event))"
            />
            <HourField
              label="Due orders ready by"
              :fault="fault('handOverMinute')"
              :model-value="timeOf(form.handOverMinute)"
              @update:model-value="form.handOverMinute = minuteOf($event)"
            />
          </FieldPair>
          <FieldPair>
            <TextField
              v-model="form.sittingMinutes"
              label="Longest sitting, minutes"
              :fault="fault('sittingMinutes')"
              hint="Lots are sized to it."
              numeric
            />
          </FieldPair>
          <HabitFields v-model="form.habit" :currency="form.currency" :fault="fault" />
          <h2>Rates</h2>
          <FieldPair>
            <TextField
              v-model="form.labourPerHour"
              :label="`Your hour costs, ${unit()}`"
              :fault="fault('labourPerHour')"
              inputmode="decimal"
            />
            <TextField
              v-model="form.overheadPerHour"
              :label="`Room and tools an hour, ${unit()}`"
              :fault="fault('overheadPerHour')"
              inputmode="decimal"
            />
          </FieldPair>
          <TickBox v-model="form.taxIsCost">The tax on what you buy is a cost: it is not given back to you</TickBox>
          <PickField
            v-model="form.confidence"
            label="How sure to be of enough good pieces"
            :fault="fault('confidence')"
            hint="Batches are started with as many extra pieces as that takes."
            :choices="
              [0.5, 0.7, 0.8, 0.9, 0.95, 0.99].map((c) => ({ value: c, name: `${Math.round(c * 100)} times in 100` }))
            "
          />
          <p class="quiet">
            Fees, margins and price endings belong to each
            <RouterLink to="/products/prices">way of selling</RouterLink>; what is asked ahead and how long a quote
            stands are your <RouterLink to="/workshop/terms">terms</RouterLink>; what customers are written are your
            <RouterLink to="/workshop/texts">texts</RouterLink>.
          </p>
        </section>
      </InTurn>
      <InTurn>
        <section aria-labelledby="racks">
          <h2 id="racks">Where pieces rest</h2>
          <RackFields v-model="form.racks" :fault="(f: string) => fault(`racks${f}`)" />
          <TickBox v-model="form.coldNights">
            Rests in cold or damp air are planned longer, by the room’s sensor, and never under their floor
          </TickBox>
        </section>
      </InTurn>
      <InTurn>
        <section aria-labelledby="machines">
          <h2 id="machines">Machines and places</h2>
          <p class="quiet">Spraying and whatever is hot keep an hour apart, however many there are.</p>
          <MachineFields v-model="form.machines" :fault="(f: string) => fault(`machines${f}`)" />
        </section>
      </InTurn>
      <InTurn>
        <section aria-labelledby="times">
          <h2 id="times">Times you like for some work</h2>
          <TimesFields v-model="form.preferences" :fault="(f: string) => fault(`preferences${f}`)" />
        </section>
      </InTurn>
      <InTurn>
        <div class="save">
          <TroubleNote v-if="trouble && Object.keys(trouble.fields).length" :trouble="trouble" whole />
          <SaveTrouble :trouble="trouble" />
          <ClashNote :clashes="clashes" :names="names" :show="inWords" @mine="keepMine" @theirs="takeTheirs" />
          <p v-if="role !== 'owner'" class="quiet">Only an owner changes these.</p>
          <button v-else class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'Save' }}</button>
        </div>
      </InTurn>
    </div>
  </form>
</template>

<style scoped>
.workshop {
  display: grid;
  grid-template-columns: minmax(0, 6fr) minmax(0, 5fr);
  gap: 32px;
  margin-top: 12px;
}
.column {
  display: grid;
  gap: 28px;
  align-content: start;
}
section {
  display: grid;
  gap: 10px;
  align-content: start;
}
.side {
  justify-self: start;
}
.save {
  position: sticky;
  z-index: 2;
  bottom: 0;
  display: grid;
  gap: 10px;
  padding: 10px 0 14px;
  background: var(--paper);
}
@media (max-width: 1000px) {
  .workshop {
    grid-template-columns: minmax(0, 1fr);
  }
  .save {
    position: static;
  }
}
</style>
