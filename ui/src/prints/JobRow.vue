<script setup lang="ts">
import { runs } from '../shared/settings'
import { computed, ref } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import { moment } from '../shared/time'

// Sheets that were made, or are being made.
const props = defineProps<{ job: Schemas['PrintJob'] }>()
const { tell, busy } = useAct()
const path = computed(() => ({ params: { path: { id: props.job.id } } }))
const pages = computed(() => Math.ceil(props.job.layout.sheets.length / Math.max(1, props.job.paper.up ?? 1)))
const open = ref(false)
const stop = () => tell(() => answerOf(api.POST('/api/print-jobs/{id}/stop', path.value)))
const print = () => tell(() => answerOf(api.POST('/api/print-jobs/{id}/print', path.value)))
const cancelPrinting = () => tell(() => answerOf(api.POST('/api/print-jobs/{id}/cancel-printing', path.value)))
const again = () => tell(() => answerOf(api.POST('/api/print-jobs/{id}/again', path.value)))
const remove = () => tell(() => answerOf(api.POST('/api/print-jobs/{id}/remove', path.value)))
</script>

<template>
  <div class="job">
    <p>
      <b>{{ job.title }}</b>
      <span class="quiet">
        {{ job.prints }} {{ job.prints === 1 ? 'print' : 'prints' }} on {{ job.sheets }}
        {{ job.sheets === 1 ? 'sheet' : 'sheets' }} of {{ job.paper.name || 'own size' }} ·
        {{ moment(job.createdAt, thisMinute) }}
      </span>
    </p>
    <p class="acts">
      <template v-if="job.state === 'making'">
        <span role="status">sheet {{ Math.min(job.done + 1, pages) }} of {{ pages }}</span>
        <el-progress
          :percentage="Math.round((job.done / pages) * 100)"
          :show-text="false"
          :aria-label="`Making ${job.title}`"
        />
        <button class="side" type="button" :disabled="busy" @click="stop">Stop</button>
      </template>
      <template v-else-if="job.state === 'ready'">
        <a :href="`/api/print-jobs/${job.id}/sheets.pdf`" download>Sheets (PDF)</a>
        <a :href="`/api/print-jobs/${job.id}/shop.pdf`" download>Page for the shop</a>
        <button class="word" type="button" :aria-expanded="open" @click="open = !open">Cut outlines</button>
        <template v-if="job.printing">
          <span role="status">printing {{ Math.min(job.printed + 1, job.sheets) }} of {{ job.sheets }}</span>
          <button class="side" type="button" :disabled="busy" @click="cancelPrinting">Stop printing</button>
        </template>
        <button v-else class="side" type="button" :disabled="busy" @click="print">Print (simulated)</button>
      </template>
      <template v-else>
        <span :class="{ bad: job.state === 'failed' }">{{ job.failure || 'stopped' }}</span>
        <button class="side" type="button" :disabled="busy" @click="again">Make again</button>
      </template>
      <button v-if="runs && job.state !== 'making'" class="word" type="button" :disabled="busy" @click="remove">
        Remove<span class="spoken"> the sheets of {{ job.title }}</span>
      </button>
    </p>
    <p v-if="open" class="outlines">
      <a
        v-for="(_, i) in job.layout.sheets"
        :key="i"
        :href="`/api/print-jobs/${job.id}/outlines/${i + 1}`"
        :download="`outlines-${job.id}-${i + 1}.svg`"
        >Sheet {{ i + 1 }} (SVG)</a
      >
    </p>
    <p v-if="job.printed" class="outlines">
      <a v-for="n in job.printed" :key="n" :href="`/api/print-jobs/${job.id}/printed/${n}`" download
        >Printed sheet {{ n }}</a
      >
    </p>
  </div>
</template>

<style scoped>
.job {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  justify-content: space-between;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
.job > p:first-child,
.acts,
.outlines {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  align-items: center;
}
.outlines {
  flex-basis: 100%;
}
.el-progress {
  width: 120px;
}
.bad {
  color: var(--brick);
}
</style>
