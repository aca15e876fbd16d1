<script setup lang="ts">
import { computed } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import { money } from '../shared/money'
import { runs } from '../shared/settings'
import { moment } from '../shared/time'
import { say } from '../shared/toast'
import { useTray } from '../shared/tray'

// What came back of an order, and what was done about it.
const props = defineProps<{ returns: Schemas['Return'][] }>()
const { open } = useTray()
const { tell, busy } = useAct()
const { data: troubles } = useAnswer('/api/troubles', () => ({}), { enabled: () => props.returns.length > 0 })
const rows = computed(() =>
  props.returns.map((r) => {
    const back = r.pieces.filter((p) => p.goes !== 'stays').length
    const count = (n: number) => `${n} ${n === 1 ? 'piece' : 'pieces'}`
    const sign = troubles.value?.find((t) => t.key === r.cause)?.sign
    return {
      ...r,
      what: back > 0 ? `${count(back)} came back` : `${count(r.pieces.length)} complained of`,
      said: [sign, Number(r.cost) > 0 ? `cost ${money(r.cost)}` : '', r.note].filter(Boolean).join(' · '),
    }
  }),
)
async function strike(id: number) {
  const done = await tell(() => answerOf(api.POST('/api/returns/{id}/take-back', { params: { path: { id } } })))
  if (done) say({ text: 'Struck out: it was noted by mistake.' })
}
</script>

<template>
  <ul aria-label="What came back">
    <li v-for="r in rows" :key="r.id">
      <span
        ><span :class="{ struck: r.takenBackAt }"
          >{{ r.what }}<template v-if="Number(r.amount)">, {{ money(r.amount) }} let off</template></span
        >, {{ moment(r.notedAt, thisMinute) }}<span v-if="r.said" class="quiet said">{{ r.said }}</span>
        <button v-if="r.remadeOrderId" class="word" type="button" @click="open('order', r.remadeOrderId)">
          the order that makes it again
        </button></span
      >
      <span v-if="r.takenBackAt" class="quiet">struck out</span>
      <button v-else-if="runs" class="word" type="button" :disabled="busy" @click="strike(r.id)">Strike out</button>
    </li>
  </ul>
</template>

<style scoped>
li {
  display: flex;
  gap: 12px;
  align-items: baseline;
  justify-content: space-between;
  padding: 4px 0;
  border-top: 1px solid var(--line);
  overflow-wrap: anywhere;
}
.said {
  display: block;
}
.struck {
  text-decoration: line-through;
}
</style>
