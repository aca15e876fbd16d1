<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { fileAt } from '../artwork/said'
import { thisMinute } from '../shared/clock'
import TickBox from '../shared/TickBox.vue'
import { moment } from '../shared/time'

// A batch whose prints can be put on sheets.
const props = defineProps<{ batch: Schemas['Printable']; chosen: number[] }>()
const emit = defineEmits<{ choose: [id: number, on: boolean] }>()

const said = computed(() =>
  [
    props.batch.pieces ? `${props.batch.pieces} to print` : 'all printed',
    ...(props.batch.printed && props.batch.pieces ? [`${props.batch.printed} printed`] : []),
    props.batch.carrier,
    ...(props.batch.layAt ? [`laid ${moment(props.batch.layAt, thisMinute.value)}`] : []),
  ].join(' · '),
)
</script>

<template>
  <li>
    <TickBox
      :model-value="chosen.includes(batch.batchId)"
      @update:model-value="emit('choose', batch.batchId, $event as boolean)"
    >
      <b>{{ batch.productName }}</b> batch {{ batch.batch }}
    </TickBox>
    <RouterLink :to="`/prints/design/${batch.productId}`" :aria-label="`How the ${batch.productName} looks`">
      <img v-if="batch.artworkThumb" :src="fileAt(batch.artworkThumb)" alt="" />
      <span v-else>look</span>
    </RouterLink>
    <p class="quiet">{{ said }}</p>
    <p v-if="batch.missing" class="missing">{{ batch.missing }} without their picture yet: put them in on the order.</p>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 12px;
  align-items: center;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}
p {
  grid-column: 1;
  margin-left: 24px;
  font-size: 14px;
}
a {
  grid-row: 1 / span 2;
  grid-column: 2;
}
img {
  display: block;
  width: 44px;
  height: 44px;
  object-fit: cover;
}
.missing {
  color: var(--straw);
}
</style>
