<script setup lang="ts">
import { computed, onMounted, onUnmounted, watch } from 'vue'
import { useRoute } from 'vue-router'
import { wake } from '../shared/bell'
import { clock } from '../shared/time'
import { personId } from '../shared/settings'
import { useAwake } from '../shared/useAwake'
import { useToday } from '../planning/queries'
import RiskDialog from '../batches/RiskDialog.vue'
import { useRestEnds } from './useRestEnds'
import { useTakeUp } from '../batches/useTakeUp'

// The end of a short rest, on every page: heard, seen, and one tap from the next step.
const { running, ended, seen, lay } = useRestEnds()
const { takeUp, busy, risk } = useTakeUp()
const { data: today } = useToday()

const timing = computed(() =>
  (today.value?.inHand ?? []).some((w) => w.runningSince !== undefined && w.personId === personId.value),
)
useAwake(computed(() => timing.value || running.value.length > 0))

const first = () => {
  wake()
  lay()
}
onMounted(() => {
  window.addEventListener('pointerdown', first)
  window.addEventListener('keydown', first)
})
onUnmounted(() => {
  window.removeEventListener('pointerdown', first)
  window.removeEventListener('keydown', first)
})

// The tab says it too, for whoever looks at another one.
const route = useRoute()
watch(
  [() => ended.value.length, () => route.fullPath],
  ([count]) => {
    const plain = document.title.replace(/^\(\d+ ready\) /, '')
    document.title = count ? `(${count} ready) ${plain}` : plain
  },
  { flush: 'post' },
)
</script>

<template>
  <div role="status" aria-live="assertive">
    <section
      v-for="r in ended"
      :key="`${r.lotId}:${r.step}`"
      class="end"
      :aria-label="`A rest is over: ${r.stepName}, ${r.product}, lot ${r.lotId}`"
    >
      <i class="ring drawn" aria-hidden="true" />
      <p>
        <b>Ready since {{ clock(r.ready) }}: {{ r.stepName }}</b>
        <span class="what">{{ r.pieces.length }} × {{ r.product }}, after {{ r.after.toLowerCase() }}</span>
      </p>
      <button class="act" type="button" :disabled="busy" @click="takeUp([r])">
        Take up<span class="spoken"> {{ r.stepName }}, {{ r.product }}</span>
      </button>
      <button class="side" type="button" @click="seen(r)">Later</button>
    </section>
  </div>
  <RiskDialog v-if="risk" :why="risk.why" :early="risk.early" @wait="risk = null" @accept="takeUp(risk.next, true)" />
</template>

<style scoped>
.end {
  display: flex;
  align-items: center;
  gap: 8px 14px;
  padding: 8px 20px;
  background: var(--glaze-wash);
  border-bottom: 2px solid var(--glaze);
}
.end p {
  margin-right: auto;
}
.what {
  display: block;
  color: #1f4f4b;
}
.ring {
  flex: none;
  width: 26px;
  height: 26px;
  border: 4px solid var(--glaze);
  border-radius: 50%;
  background: radial-gradient(var(--glaze) 0 45%, transparent 48%);
}
@media (max-width: 640px) {
  .end {
    display: grid;
    grid-template-columns: 26px 1fr auto;
    padding: 10px 12px;
  }
  .end p {
    grid-column: 2 / -1;
  }
  .end .act {
    grid-column: 1 / 3;
  }
}
</style>
