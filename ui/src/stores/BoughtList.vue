<script setup lang="ts">
import WaitingRows from '../shared/WaitingRows.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import { figure } from '../shared/habit'
import { ref } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import { unit } from '../shared/money'
import { dateOf, dayName } from '../shared/time'
import { say } from '../shared/toast'
import DialogBox from '../shared/dialog'

// The receipts, and how the suppliers have done.
const { data: receipts } = useAnswer('/api/receipts')
const { data: suppliers } = useAnswer('/api/suppliers')
const { tell, busy, trouble } = useAct()
const asking = ref<Schemas['Bought'] | null>(null)

async function takeBack(receipt: Schemas['Bought']) {
  asking.value = null
  await tell(() => answerOf(api.POST('/api/receipts/{id}/take-back', { params: { path: { id: receipt.receiptId } } })))
  if (!trouble.value) say({ text: 'Taken back, as if it had not been bought.' })
}
const rejected = (s: Schemas['SupplierRecord']) =>
  Number(s.blanks) > 0
    ? `${Number(s.rejects)} of ${Number(s.blanks)} blanks no good (${Math.round((Number(s.rejects) / Number(s.blanks)) * 100)} %)`
    : ''
</script>

<template>
  <div v-if="receipts && suppliers" class="two">
    <section aria-labelledby="receipts">
      <h2 id="receipts">Receipts</h2>
      <ul>
        <li v-for="r in receipts" :key="r.receiptId" :class="{ gone: r.takenBack }">
          <p class="line">
            <b>{{ r.supplier }}</b><span class="quiet">{{ dayName(r.receivedOn, dateOf(thisMinute)) }}</span
            ><b>{{ figure(Number(r.paid), 2) }}</b>
          </p>
          <p class="quiet">
            <template v-for="(l, i) in r.lines" :key="i"
              >{{ i ? ' · ' : '' }}{{ l.packs }} × {{ l.pack }} {{ l.name
              }}<template v-if="Number(l.rejects)">, {{ Number(l.rejects) }} no good</template></template
            >
          </p>
          <p v-if="r.note" class="quiet">{{ r.note }}</p>
          <p v-if="r.takenBack" class="quiet">taken back</p>
          <button v-else class="word" type="button" :disabled="busy" @click="asking = r">Take back</button>
        </li>
      </ul>
      <EmptyNote v-if="receipts.length === 0">
        Nothing has been entered yet. Once it has, its material is kept count of, and what a piece costs follows from
        what you paid.
      </EmptyNote>
    </section>
    <section aria-labelledby="suppliers">
      <h2 id="suppliers">Suppliers</h2>
      <ul>
        <li v-for="s in suppliers" :key="s.id">
          <p class="line">
            <b>{{ s.name }}</b><span class="quiet">last {{ dayName(s.lastOn, dateOf(thisMinute)) }}</span>
          </p>
          <p class="quiet">
            {{ s.receipts }} {{ s.receipts === 1 ? 'receipt' : 'receipts'
            }}<template v-if="rejected(s)"> · {{ rejected(s) }}</template>
          </p>
        </li>
      </ul>
      <p class="quiet">Paid in {{ unit() }}, goods, shipping and tax together.</p>
    </section>
  </div>
  <DialogBox v-if="asking" :model-value="true" title="Take this receipt back?" width="460" @close="asking = null">
    <p>
      All that came with it from {{ asking.supplier }} leaves the stores, as if it had not been bought. It is refused
      when some of it has been used.
    </p>
    <template #footer>
      <button class="side" type="button" @click="asking = null">Leave it</button>&nbsp;
      <button class="act" type="button" @click="takeBack(asking)">Take it back</button>
    </template>
  </DialogBox>
  <WaitingRows v-if="!receipts" />
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 1fr);
  gap: 28px;
}
section {
  display: grid;
  gap: 8px;
  align-content: start;
}
li {
  padding: 8px 0;
  border-top: 1px solid var(--line);
}
.line {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 14px;
}
.gone b {
  text-decoration: line-through;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
