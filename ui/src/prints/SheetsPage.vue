<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useAnswer, useAsked } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import DateField from '../shared/DateField.vue'
import ChoiceField from '../shared/ChoiceField.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import FoldBox from '../shared/FoldBox.vue'
import FieldPair from '../shared/FieldPair.vue'
import { figure } from '../shared/habit'
import PageHead from '../shared/PageHead.vue'
import PickField from '../shared/PickField.vue'
import { seesBusiness } from '../shared/settings'
import TextField from '../shared/TextField.vue'
import TickBox from '../shared/TickBox.vue'
import { dateOf } from '../shared/time'
import TroubleNote from '../shared/TroubleNote.vue'
import WaitingRows from '../shared/WaitingRows.vue'
import JobRow from './JobRow.vue'
import { plainDecimal } from '../shared/reading'
import { papers } from './paper'
import PrintableRow from './PrintableRow.vue'
import PrinterPanel from './PrinterPanel.vue'
import SheetDrawing from './SheetDrawing.vue'

// The prints of batches on sheets: which batches, on what, how many sheets it comes to.
const { data: printable } = useAnswer('/api/printable-batches')
const { data: jobs } = useAnswer('/api/print-jobs')
const { act, busy, trouble, fault } = useAct()

const chosen = ref<number[]>([])
const begun = ref(false)
// At first what is to be printed and can be is chosen, of the first carrier there is.
watch(
  printable,
  (list) => {
    chosen.value = chosen.value.filter((id) => list?.some((b) => b.batchId === id))
    if (begun.value || !list) return
    begun.value = true
    const open = list.filter((b) => b.pieces > 0 && b.missing === 0)
    chosen.value = open.filter((b) => b.carrier === open[0]?.carrier).map((b) => b.batchId)
  },
  { immediate: true },
)
const toPrint = computed(() => (printable.value ?? []).filter((b) => b.pieces > 0))
const printed = computed(() => (printable.value ?? []).filter((b) => b.pieces === 0))
function choose(id: number, on: boolean) {
  chosen.value = on ? [...chosen.value, id] : chosen.value.filter((c) => c !== id)
}

// All that the plan lays by a day, of the carrier that comes first.
const by = ref('')
watch(by, (day) => {
  if (!day) return
  const soon = (printable.value ?? []).filter((b) => b.pieces > 0 && b.layAt && dateOf(b.layAt) <= day)
  chosen.value = soon.filter((b) => b.carrier === soon[0]?.carrier && !b.missing).map((b) => b.batchId)
})

const paper = ref<Schemas['Paper']>({ ...papers[0]! })
const kind = computed({
  get: () =>
    papers.find((p) => p.widthMm === paper.value.widthMm && p.heightMm === paper.value.heightMm)?.name ?? 'own',
  set: (name) => {
    const p = papers.find((p) => p.name === name)
    paper.value = p
      ? { ...p, marginMm: paper.value.marginMm, gapMm: paper.value.gapMm, up: paper.value.up }
      : { ...paper.value, name: 'own', widthMm: paper.value.widthMm + 0.1 }
  },
})
const trim = ref(0)
const cut = ref<Schemas['JobRequest']['cut']>('none')
const spare = ref(false)
const acceptWords = ref(false)
const shopSheet = ref('')
// It begins with what the last sheets were made on, and with what the shop took then.
const likeLast = ref(false)
watch(
  jobs,
  (list) => {
    if (likeLast.value || !list) return
    likeLast.value = true
    const last = list[0]
    if (!last) return
    paper.value = { ...last.paper }
    cut.value = last.cut
    shopSheet.value = Number(last.shopSheet) ? last.shopSheet! : ''
  },
  { immediate: true },
)
const request = computed<Schemas['JobRequest'] | null>(() =>
  chosen.value.length && likeLast.value
    ? {
        batchIds: chosen.value,
        paper: paper.value,
        trimMm: trim.value,
        cut: cut.value,
        spare: spare.value,
        acceptWords: acceptWords.value,
        ...(shopSheet.value.trim() ? { shopSheet: plainDecimal(shopSheet.value) } : {}),
      }
    : null,
)
const { data: proposal, error: refused } = useAsked('/api/print-jobs/ask', request, {
  keep: true,
  enabled: () => request.value !== null,
})
const standing = computed(() => (request.value && !refused.value ? proposal.value : undefined))
const faultOf = (field: string) =>
  fault(field) || (refused.value as { fields?: Record<string, string> } | null)?.fields?.[field] || ''
const concerns = computed(() => standing.value?.concerns ?? [])
const blocked = computed(() => concerns.value.some((c) => c.blocks && !(c.words && acceptWords.value)))
const wordy = computed(() => concerns.value.some((c) => c.words))

async function make() {
  if (!request.value) return
  const made = await act(() => answerOf(api.POST('/api/print-jobs', { body: request.value! })))
  if (!made) return
  begun.value = true
}
</script>

<template>
  <div>
    <PageHead name="Sheets">
      <template #said>
        <p class="quiet">Prints of your batches, laid out so that they take few sheets, at their true size.</p>
      </template>
      <template v-if="seesBusiness" #acts><RouterLink to="/prints">Pictures</RouterLink></template>
    </PageHead>
    <WaitingRows v-if="!printable" />
    <EmptyNote v-else-if="printable.length === 0">
      No batch waits to be printed. Make one up from what is wanted, and its prints are here.
    </EmptyNote>
    <div v-else class="work">
      <div class="what">
        <h2>What is printed</h2>
        <p v-if="faultOf('batchIds')" class="fault" role="alert">{{ faultOf('batchIds') }}</p>
        <ul class="batches">
          <PrintableRow v-for="b in toPrint" :key="b.batchId" :batch="b" :chosen="chosen" @choose="choose" />
        </ul>
        <p v-if="!toPrint.length" class="quiet">All is printed. What came out badly can be printed again below.</p>
        <FoldBox v-if="printed.length" :name="`${printed.length} printed already`">
          <ul class="batches">
            <PrintableRow v-for="b in printed" :key="b.batchId" :batch="b" :chosen="chosen" @choose="choose" />
          </ul>
        </FoldBox>
        <DateField v-model="by" label="All that is laid by" hint="Ticks what the plan has laid by then." />
        <h2>On what</h2>
        <FieldPair least="110px">
          <PickField
            v-model="kind"
            label="Paper or film"
            :choices="[
              ...papers.map((p) => ({ value: p.name, name: p.name! })),
              { value: 'own', name: 'another size' },
            ]"
          />
          <PickField
            v-model="paper.up"
            label="Cut apart into"
            :choices="[
              { value: undefined, name: 'one sheet' },
              { value: 2, name: 'two' },
              { value: 3, name: 'three' },
              { value: 4, name: 'four' },
            ]"
          />
        </FieldPair>
        <FieldPair least="88px">
          <template v-if="kind === 'own'">
            <TextField v-model="paper.widthMm" label="Width, mm" numeric :fault="faultOf('paper.widthMm')" />
            <TextField v-model="paper.heightMm" label="Height, mm" numeric :fault="faultOf('paper.heightMm')" />
          </template>
          <TextField v-model="paper.marginMm" label="Margin, mm" numeric :fault="faultOf('paper.marginMm')" />
          <TextField v-model="paper.gapMm" label="Between, mm" numeric :fault="faultOf('paper.gapMm')" />
          <TextField v-model="trim" label="Round each, mm" numeric :fault="faultOf('trimMm')" />
        </FieldPair>
        <p v-if="kind !== 'own' && faultOf('paper.widthMm')" class="fault" role="alert">
          {{ faultOf('paper.widthMm') }}
        </p>
        <ChoiceField
          v-model="cut"
          label="To cut along"
          row
          :choices="[
            { value: 'none', name: 'nothing' },
            { value: 'marks', name: 'corner marks' },
            { value: 'print', name: 'the print’s outline' },
            { value: 'blank', name: 'the blank’s outline' },
          ]"
        />
        <TickBox v-model="spare">Fill what is left free with spare prints</TickBox>
      </div>
      <div class="comes">
        <h2>What it comes to</h2>
        <p v-if="!request" class="quiet">Tick a batch.</p>
        <template v-else-if="standing">
          <p class="sum">
            <b>{{ standing.sheets }} {{ standing.sheets === 1 ? 'sheet' : 'sheets' }}</b> · {{ standing.prints }}
            {{ standing.prints === 1 ? 'print' : 'prints' }}
            <small
              >{{ figure(standing.layout.fill * 100, 0) }} % covered{{
                standing.layout.sheets.length === standing.layout.lowerBound ? '; fewer sheets cannot hold them' : ''
              }}</small
            >
          </p>
          <p v-if="standing.costs">{{ standing.costs.says }}</p>
          <TextField
            v-if="standing.costs"
            v-model="shopSheet"
            class="shop"
            label="A copy shop takes, a sheet"
            inputmode="decimal"
            lazy
            maxlength="12"
            :fault="faultOf('shopSheet')"
            hint="Empty while you do not know."
          />
          <p v-for="k in standing.layout.kinds" :key="k.batchId" class="quiet kind">
            <b>{{ k.productName }}</b> {{ k.why
            }}{{ k.trimMm > trim ? `; ${figure(k.trimMm)} mm are left round each, as its recipe has it` : '' }}
          </p>
          <ul v-if="concerns.length" class="note straw concerns">
            <li v-for="(c, i) in concerns" :key="i">
              Batch {{ c.batch }}{{ c.name ? `, ${c.name}` : '' }}: {{ c.text }}
            </li>
          </ul>
          <TickBox v-if="wordy" v-model="acceptWords">Print these words as they come out</TickBox>
          <div class="sheets">
            <SheetDrawing
              v-for="(s, i) in standing.layout.sheets.slice(0, 12)"
              :key="i"
              :layout="standing.layout"
              :sheet="s"
              :paper="paper"
              :name="`Sheet ${i + 1}`"
            />
          </div>
          <p v-if="standing.layout.sheets.length > 12" class="quiet">
            and {{ standing.layout.sheets.length - 12 }} more like these
          </p>
        </template>
        <p v-else-if="!refused" class="quiet">Laying it out…</p>
        <TroubleNote :trouble="trouble" />
        <p v-if="standing || refused || !request">
          <button class="act" type="button" :disabled="!standing || blocked || busy" @click="make">
            Make the sheets
          </button>
        </p>
      </div>
    </div>
    <section v-if="printable && jobs?.length" class="jobs">
      <h2>Made before</h2>
      <PrinterPanel />
      <JobRow v-for="j in jobs" :key="j.id" :job="j" />
    </section>
  </div>
</template>

<style scoped>
.work {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 20px 40px;
  align-items: start;
}
.what,
.comes {
  display: grid;
  gap: 10px;
}
.batches {
  display: grid;
  border-top: 1px solid var(--line);
}
.fault {
  color: var(--brick);
  font-size: 14px;
  font-weight: 600;
}
.comes {
  position: sticky;
  top: 10px;
}
.sum small {
  margin-left: 10px;
  color: var(--soft);
}
.concerns {
  display: grid;
  gap: 4px;
}
.shop {
  max-width: 240px;
}
.sheets {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(104px, 1fr));
  gap: 12px;
}
.jobs {
  margin-top: 26px;
}
@media (max-width: 820px) {
  .work {
    grid-template-columns: minmax(0, 1fr);
  }
  .comes {
    position: static;
  }
}
</style>
