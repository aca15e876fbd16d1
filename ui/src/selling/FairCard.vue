<script setup lang="ts">
import TroubleNote from '../shared/TroubleNote.vue'
import FoldBox from '../shared/FoldBox.vue'
import CountField from '../shared/CountField.vue'
import { written } from '../shared/habit'
import { plainDecimal } from '../shared/reading'
import { computed, ref } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { amount, money, unit } from '../shared/money'
import TextField from '../shared/TextField.vue'
import FieldPair from '../shared/FieldPair.vue'
import StallCurve from './StallCurve.vue'
import PickField from '../shared/PickField.vue'

// When a stall at a fair pays: its cost against what each piece leaves towards it.
const props = defineProps<{ list: Schemas['PriceList'] }>()
const { act, busy, trouble, fault } = useAct()
const outletId = ref(0)
const stall = ref('')
const hours = ref(6)
const taken = ref<Record<number, number>>({})
// paid is what the stall cost when it was worked out.
const paid = ref(0)
const answer = ref<Schemas['FairAnswer'] | null>(null)

const outlet = computed(() => outletId.value || props.list.outlets[1]?.id || props.list.outlets[0]?.id || 0)
const asked = computed(() =>
  props.list.rows
    .map((r) => ({ productId: r.productId, pieces: taken.value[r.productId] ?? 0 }))
    .filter((t) => t.pieces > 0),
)
async function workOut() {
  answer.value = null
  const body = {
    outletId: outlet.value,
    stall: plainDecimal(stall.value),
    hours: hours.value,
    taken: asked.value,
  }
  paid.value = Number(body.stall) || 0
  answer.value = (await act(() => answerOf(api.POST('/api/fair', { body })))) ?? null
}
</script>

<template>
  <section aria-labelledby="fair">
    <h2 id="fair">Does a stall pay?</h2>
    <form novalidate @submit.prevent="workOut">
      <FieldPair least="130px">
        <PickField
          label="Sold as at"
          :fault="fault('outletId')"
          :model-value="outlet"
          :choices="list.outlets.map((o) => ({ value: o.id, name: o.name }))"
          @update:model-value="outletId = $event"
        />
        <TextField
          v-model="stall"
          :label="`The stall costs, ${unit()}`"
          :fault="fault('stall')"
          hint="rent, travel, all of it"
          inputmode="decimal"
          maxlength="10"
        />
        <TextField v-model="hours" label="Hours there" :fault="fault('hours')" numeric maxlength="5" />
      </FieldPair>
      <FoldBox :name="`What you take: ${asked.reduce((n, t) => n + t.pieces, 0)} pieces`" :open="asked.length > 0">
        <div class="taken">
          <CountField
            v-for="r in list.rows"
            :key="r.productId"
            :model-value="taken[r.productId] ?? 0"
            :label="r.name"
            :most="500"
            @update:model-value="taken[r.productId] = $event"
          />
        </div>
      </FoldBox>
      <p v-if="fault('taken')" class="bad" role="alert">Say how many of what you take.</p>
      <TroubleNote v-else :trouble="trouble" />
      <button class="side" type="submit" :disabled="busy">Work it out</button>
    </form>
    <div v-if="answer" role="status">
      <p v-if="answer.breakEven" class="big">
        Sell <b>{{ answer.breakEven }}</b> of the {{ answer.pieces }} and the stall is paid.
      </p>
      <p v-else class="big bad">All {{ answer.pieces }} of them do not pay for the stall.</p>
      <p>
        All sold, {{ money(answer.brings) }} is left<template v-if="answer.perHour"
          >: <b>{{ money(answer.perHour) }}</b> an hour, counting {{ written(answer.handsHours) }} h at the bench and
          {{ hours }} h there</template
        >.
      </p>
      <StallCurve :answer="answer" :stall="paid" />
      <ul>
        <li v-for="c in answer.contributes" :key="c.productId" class="quiet">
          {{ c.name }} at {{ amount(c.tag) }} leaves {{ amount(c.each) }} each<template v-if="c.alone"
            >; {{ c.alone }} of them alone would pay for it</template
          >
        </li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
section,
form {
  display: grid;
  gap: 10px;
  align-content: start;
}
.taken {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: 4px 14px;
}
.side {
  justify-self: start;
}
.big b {
  font: 650 23px/1.2 var(--heading);
  color: var(--clay);
}
</style>
