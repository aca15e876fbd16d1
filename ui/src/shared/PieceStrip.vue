<script setup lang="ts">
import { computed } from 'vue'

// A strip of small marks, one a piece, in the notation of the whole tool.
const props = defineProps<{ marks: string[] }>()

const names: Record<string, string> = {
  handedOver: 'handed over',
  finished: 'finished',
  ready: 'ready for hands',
  inHand: 'in hand',
  resting: 'resting',
  notStarted: 'not started',
}
const sentence = computed(() =>
  Object.keys(names)
    .map((mark) => [props.marks.filter((m) => m === mark).length, names[mark]] as const)
    .filter(([n]) => n > 0)
    .map(([n, name]) => `${n} ${name}`)
    .join(', '),
)
</script>

<template>
  <span class="strip" role="img" :aria-label="sentence" :data-tip="sentence">
    <i v-for="(mark, i) in marks.slice(0, 60)" :key="i" :class="mark" />
    <span v-if="marks.length > 60" class="quiet">+{{ marks.length - 60 }}</span>
  </span>
</template>

<style scoped>
.strip {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 4px;
  align-items: center;
}
i {
  width: 10px;
  height: 10px;
}
.notStarted {
  border: 1.5px solid var(--edge);
  height: 14px;
  border-radius: 1px;
}
.inHand {
  background: var(--clay);
  height: 14px;
}
.resting {
  width: 9px;
  height: 12px;
  border-radius: 50%;
  background: var(--night);
}
.ready {
  border-radius: 50%;
  border: 2px solid var(--glaze);
}
.finished,
.handedOver {
  border-radius: 50%;
  background: var(--glaze);
}
.handedOver {
  background: var(--line);
  border: 1.5px solid var(--glaze);
}
@media (forced-colors: active) {
  i {
    forced-color-adjust: none;
  }
}
</style>
