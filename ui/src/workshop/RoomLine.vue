<script setup lang="ts">
import { figure } from '../shared/habit'
import { computed } from 'vue'
import { useRoom } from './useRoom'

// The room's air in the top line; what there is to mind is said in the tooltip and to screen readers.
const { room } = useRoom()
const text = computed(() => {
  const r = room.value
  if (r?.celsius === undefined || r.humidity === undefined) return ''
  return `${figure(r.celsius, 1)} °C · ${Math.round(r.humidity * 100)} %`
})
</script>

<template>
  <RouterLink
    v-if="text"
    to="/workshop#room"
    class="room"
    :class="{ mind: room?.advice }"
    :data-tip="`${room?.simulated ? 'Simulated sensor. ' : ''}${room?.advice || 'Nothing to mind.'}`"
  >
    <span class="spoken">{{ room?.simulated ? 'The room, by a simulated sensor: ' : 'The room: ' }}</span>{{ text
    }}<span v-if="room?.simulated" class="sim" aria-hidden="true"> sim</span
    ><span v-if="room?.advice" class="spoken">. {{ room.advice }}</span>
  </RouterLink>
</template>

<style scoped>
.room {
  align-self: center;
  padding: 4px 0;
  color: var(--soft);
  text-decoration: none;
  white-space: nowrap;
}
.room:hover {
  color: var(--ink);
  text-decoration: underline;
}
.mind {
  color: var(--straw);
  font-weight: 650;
}
.sim {
  font-size: 13px;
  font-style: italic;
}
@media (max-width: 1000px) {
  .sim {
    display: none;
  }
}
@media (max-width: 640px) {
  .room {
    min-height: 44px;
    align-content: center;
  }
}
</style>
