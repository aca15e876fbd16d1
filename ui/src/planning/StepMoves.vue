<script setup lang="ts">
import { computed } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import FoldBox from '../shared/FoldBox.vue'
import { useStill } from '../shared/still'
import { moment } from '../shared/time'
import { say } from '../shared/toast'
import { useTray } from '../shared/tray'

// What new plans have put elsewhere in the coming day since somebody looked, why, and the way back.
const { data: moves } = useAnswer('/api/plan/moves', undefined, { keep: true })
const { tell, busy } = useAct()
const { open } = useTray()
const some = computed(() => moves.value ?? [])
const shown = useStill(() => some.value.length > 0)

async function back(m: Schemas['StepMove']) {
  const path = { params: { path: { id: m.lotId } } }
  const body = { step: m.step, at: m.from, personId: m.fromPersonId || undefined }
  const held = await tell(async () => {
    await answerOf(api.POST('/api/lots/{id}/hold', { ...path, body }))
    return true
  })
  if (!held) return
  const undo = () => tell(() => answerOf(api.POST('/api/lots/{id}/let-go', path)))
  say({ text: `${m.stepName}, ${m.product}: held where it was.`, action: 'Undo', act: undo })
}
const seen = () => tell(() => answerOf(api.POST('/api/plan/moves/seen')))
const said = (because: string) => (because ? `Why? ${because}.` : '')
</script>

<template>
  <FoldBox
    v-if="shown && some.length"
    :name="`${some.length} ${some.length === 1 ? 'step' : 'steps'} of the coming day moved`"
  >
    <ul class="moves">
      <li v-for="m in some" :key="`${m.lotId}:${m.step}`">
        <p>
          <button class="word" type="button" @click="open('lot', m.lotId)">
            {{ m.stepName }}, {{ m.pieces }} × {{ m.product }}
          </button>
          {{ moment(m.to, thisMinute) }}<template v-if="m.toPerson !== m.fromPerson">, {{ m.toPerson }}</template>
          <span class="quiet">
            instead of {{ moment(m.from, thisMinute)
            }}<template v-if="m.toPerson !== m.fromPerson">, {{ m.fromPerson }}</template
            >. {{ said(m.because) }}</span
          >
        </p>
        <button class="word" type="button" :disabled="busy" @click="back(m)">
          Hold it where it was<span class="spoken">: {{ m.stepName }}, {{ m.product }}</span>
        </button>
      </li>
    </ul>
    <button class="side" type="button" :disabled="busy" @click="seen">That is known</button>
  </FoldBox>
</template>

<style scoped>
.moves {
  overflow-wrap: anywhere;
  display: grid;
  gap: 6px;
  margin-bottom: 8px;
}
.moves li {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 16px;
}
</style>
