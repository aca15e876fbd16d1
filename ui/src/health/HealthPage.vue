<script setup lang="ts">
import { ref } from 'vue'
import { useAnswer } from '../api/answers'
import { thisMinute } from '../shared/clock'
import EmptyNote from '../shared/EmptyNote.vue'
import InTurn from '../shared/InTurn.vue'
import PageHead from '../shared/PageHead.vue'
import { role } from '../shared/settings'
import { moment } from '../shared/time'
import WaitingRows from '../shared/WaitingRows.vue'
import BackupList from './BackupList.vue'
import EverythingOut from './EverythingOut.vue'
import { looked } from './words'

// Whether all is well with the machine that keeps the studio. What it says changes
// though nobody writes anything.
const { data, error, refetch } = useAnswer('/api/health', undefined, { again: () => 10_000 })
const backupsThere = ref(false)
</script>

<template>
  <PageHead name="Is all well?">
    <template #acts><RouterLink class="word" to="/workshop">The workshop</RouterLink></template>
  </PageHead>
  <EmptyNote v-if="error && !data">{{ error.message }}</EmptyNote>
  <WaitingRows v-else-if="!data" :rows="4" />
  <div v-else class="health">
    <section aria-labelledby="looked">
      <h2 id="looked" :class="{ bad: !data.well }">{{ data.well ? 'All is well' : 'Not all is well' }}</h2>
      <dl>
        <div v-for="c in data.checks" :key="c.what" :class="{ ill: !c.well }">
          <dt>
            {{ looked[c.what] }}
            <span class="verdict">{{ c.well ? 'well' : 'see to it' }}</span>
          </dt>
          <dd>
            {{ c.says }}
            <span v-if="c.at" class="quiet">{{ moment(c.at, thisMinute) }}</span>
            <b v-if="c.mend" class="mend">{{ c.mend }}</b>
          </dd>
        </div>
      </dl>
    </section>
    <template v-if="role === 'owner'">
      <InTurn><BackupList @there="backupsThere = true" @made="refetch" /></InTurn>
      <InTurn v-if="backupsThere"><EverythingOut /></InTurn>
    </template>
  </div>
</template>

<style scoped>
.health {
  display: grid;
  gap: 28px;
  margin-top: 12px;
}
dl > div {
  display: grid;
  grid-template-columns: 170px minmax(0, 1fr);
  gap: 2px 16px;
  padding: 10px 12px;
  border-left: 4px solid var(--glaze);
  border-bottom: 1px solid var(--line);
}
dl > .ill {
  border-left-color: var(--brick);
}
dt {
  font-weight: 650;
}
.verdict {
  margin-left: 6px;
  font-weight: 400;
  color: var(--glaze);
}
.ill .verdict {
  color: var(--brick);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
.mend {
  display: block;
}
@media (max-width: 640px) {
  dl > div {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
