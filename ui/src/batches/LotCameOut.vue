<script setup lang="ts">
import type { Schemas } from '../api/client'
import { now } from '../shared/clock'
import { duration } from '../shared/reading'
import { dateOf, dayName } from '../shared/time'
import { useTray } from '../shared/tray'
import { lastPart } from '../shared/words'
import OutcomePicker from './OutcomePicker.vue'
import type { Outcomes } from './outcomes'

// One lot of a sitting: whom it is for, what comes after, and how its pieces came out.
defineProps<{
  lot: Schemas['LotInHand']
  // named says that the lots' steps have names of their own.
  named: boolean
  busy: boolean
  fault: (field: string) => string
}>()
const emit = defineEmits<{ putDown: [] }>()
const model = defineModel<Outcomes>({ required: true })
const { open } = useTray()
</script>

<template>
  <li class="lot">
    <OutcomePicker
      v-model="model"
      :pieces="lot.pieces"
      :may="lot.outcomes"
      :fault="fault"
      :of="`${lot.pieces.length} × ${lot.product}, batch ${lot.batch}, lot ${lot.lot}`"
    >
      <div class="head">
        <button class="opens" type="button" @click="open('lot', lot.lotId)">
          {{ lot.pieces.length }} × {{ lot.product }}
        </button>
        <p class="quiet">
          <template v-if="lot.for?.length">{{ lot.for.join(', ') }}</template><template v-else-if="lot.for"
            >for the shelf</template
          ><template v-if="lot.due">, {{ dayName(dateOf(lot.due), dateOf(now)) }}</template
          ><template v-if="lot.pilot">, pilot</template>
        </p>
        <p class="after">
          <template v-if="named">{{ lastPart(lot.stepName) }}</template><template v-if="lot.rest"
            >{{ named ? ', then ' : 'then ' }}{{ duration(lot.rest.usual) }}</template
          >
        </p>
        <p v-if="lot.riskMinutes" class="bad">
          begun {{ duration(lot.riskMinutes) }} under the rest’s floor, at accepted risk
        </p>
        <button class="word" type="button" :disabled="busy" @click="emit('putDown')">
          Put down<span class="spoken"> {{ lot.product }}, batch {{ lot.batch }}, lot {{ lot.lot }}, alone</span>
        </button>
      </div>
    </OutcomePicker>
  </li>
</template>

<style scoped>
.lot {
  padding: 8px 0;
  border-top: 1px solid var(--line);
}
.head {
  display: grid;
  justify-items: start;
  line-height: 1.35;
  overflow-wrap: anywhere;
}
.after {
  color: var(--night);
  font-size: 14px;
  font-weight: 600;
}
.word {
  font-size: 14px;
  color: var(--soft);
}
</style>
