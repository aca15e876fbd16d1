<script setup lang="ts">
import { computed, ref } from 'vue'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import { useStill } from '../shared/still'
import { useTray } from '../shared/tray'
import MoveList from './MoveList.vue'
import { useMovedPromises } from './useMovedPromises'
import ActRow from '../shared/ActRow.vue'

// What has moved since customers were told, whatever moved it, until somebody has told them.
const { moves } = useMovedPromises()
const { open } = useTray()
const { tell, busy } = useAct()
const shown = ref(false)
const here = useStill(() => Boolean(moves.value?.length))

const heading = computed(() => {
  const all = moves.value ?? []
  const late = all.filter((m) => m.toLate && !m.fromLate).length
  const moved = all.length === 1 ? `${all[0]!.customer}’s promise has moved` : `${all.length} promises have moved`
  return late && all.length > 1 ? `${moved}, ${late} of them past their due` : late ? `${moved} past its due` : moved
})
const told = (ids: number[]) => tell(() => answerOf(api.POST('/api/moved-promises/told', { body: { ids } })))
</script>

<template>
  <section v-if="here && moves?.length" class="moved" aria-label="Promises that have moved">
    <p>
      <b>{{ heading }}.</b>
      <button class="word" type="button" :aria-expanded="shown" @click="shown = !shown">
        {{ shown ? 'Fold' : 'Which, and who is to be told' }}
      </button>
    </p>
    <ul v-if="shown">
      <li v-for="m in moves" :key="m.id">
        <div>
          <MoveList :moves="[m]" />
          <p v-if="m.because" class="quiet">Because {{ m.because }}.</p>
        </div>
        <ActRow>
          <button class="word" type="button" @click="open('order', m.orderId)">Open</button>
          <button class="side" type="button" :disabled="busy" @click="told([m.id])">They know</button>
        </ActRow>
      </li>
    </ul>
    <button
      v-if="shown && moves.length > 1"
      class="word"
      type="button"
      :disabled="busy"
      @click="told(moves.map((m) => m.id))"
    >
      All of them know
    </button>
  </section>
</template>

<style scoped>
.moved {
  padding: 6px 20px;
  background: var(--straw-wash);
  border-bottom: 1px solid var(--line);
}
.moved > p {
  display: flex;
  flex-wrap: wrap;
  gap: 0 16px;
  align-items: center;
}
.moved li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  justify-content: space-between;
  padding: 6px 0;
  border-top: 1px solid var(--line);
}
.moved > ul {
  max-height: 40vh;
  overflow-y: auto;
}
@media (max-width: 640px) {
  .moved {
    padding-inline: 12px;
  }
  .moved button {
    min-height: 48px;
  }
}
</style>
