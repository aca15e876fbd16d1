<script setup lang="ts">
import { watch } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import ActRow from '../shared/ActRow.vue'
import { thisMinute } from '../shared/clock'
import EmptyNote from '../shared/EmptyNote.vue'
import { moment } from '../shared/time'
import TroubleNote from '../shared/TroubleNote.vue'
import WaitingRows from '../shared/WaitingRows.vue'
import { holdsSaid, makingSaid, sizeSaid } from './words'

// The backups that are kept, and one made now. How far it has come is asked for every second.
const { data, error, refetch } = useAnswer('/api/backups', undefined, { again: (b) => (b?.making ? 1000 : 30_000) })
const { act, busy, trouble } = useAct()
// How tall the list is, is known when it is there: what stands below it waits for that.
const emit = defineEmits<{ there: []; made: [] }>()
watch([data, error], ([list, failed]) => (list || failed) && emit('there'), { immediate: true })
watch(
  () => !!data.value?.making,
  (now, before) => before && !now && emit('made'),
)
// Nothing of it is written to the studio, so that nobody tells the page to look again.
async function make() {
  await act(() => answerOf(api.POST('/api/backups', {})))
  await refetch()
}
</script>

<template>
  <section aria-labelledby="backups">
    <h2 id="backups">Backups</h2>
    <EmptyNote v-if="error && !data">{{ error.message }}</EmptyNote>
    <WaitingRows v-else-if="!data" :rows="3" />
    <template v-else>
      <p class="quiet">
        One is made every night, put into a database of its own and counted. The last 7 days, 4 weeks and 12 months are
        kept<template v-if="data.folder">
          in <span class="path">{{ data.folder }}</span></template
        ><template v-if="data.second">
          and in <span class="path">{{ data.second }}</span></template
        >. It holds everything, customers and the key of this studio’s certificate too: keep it as you would the studio.
      </p>
      <TroubleNote :trouble="trouble" whole />
      <ActRow>
        <button class="act" type="button" :disabled="busy || !!data.making || !data.folder" @click="make">
          {{ data.making ? 'Being made' : 'Back up now' }}
        </button>
        <span v-if="data.making" role="status">{{ makingSaid(data.making) }}</span>
      </ActRow>
      <p v-if="data.failure" class="note brick">The last one was not made: {{ data.failure }}</p>
      <p v-if="data.folder && data.kept.length === 0" class="quiet">None is kept yet.</p>
      <ul>
        <li v-for="b in data.kept" :key="b.name">
          <b>{{ moment(b.madeAt, thisMinute) }}</b>
          <span :class="{ bad: b.failure }">{{ holdsSaid(b) }}</span>
          <span class="quiet">{{ sizeSaid(b.bytes) }} · {{ b.rows }} rows · {{ b.pictures }} files of pictures</span>
          <a class="word" :href="`/api/backups/${b.name}/file`" download>Take it away</a>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 10px;
}
.path {
  font-family: ui-monospace, monospace;
  overflow-wrap: anywhere;
}
li {
  display: grid;
  grid-template-columns: 170px minmax(0, 1fr) auto auto;
  gap: 2px 16px;
  align-items: baseline;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
@media (max-width: 900px) {
  li {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  li > :nth-child(2),
  li > :nth-child(3) {
    grid-column: 1;
  }
  li > a {
    grid-column: 2;
    grid-row: 1;
  }
}
</style>
