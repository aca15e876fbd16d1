<script setup lang="ts">
import TroubleNote from '../shared/TroubleNote.vue'
import TextField from '../shared/TextField.vue'
import { ref } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { dateOf, dayName } from '../shared/time'
import { thisMinute } from '../shared/clock'
import { useWorkshop } from '../shared/useWorkshop'
import LevelMark from './LevelMark.vue'
import ActRow from '../shared/ActRow.vue'

// What is about to go wrong, the gravest first. A stop is overruled only with a reason.
const props = defineProps<{ productId: number; findings: Schemas['Finding'][]; dirty: boolean }>()
const emit = defineEmits<{ step: [id: string]; facts: [] }>()
const { act, busy, fault, trouble } = useAct()
const { people } = useWorkshop()

const overruling = ref('')
const reason = ref('')
const keyOf = (f: Schemas['Finding']) => `${f.rule}:${f.stepId}`
const words: Record<string, string> = { stop: 'Stop', caution: 'Caution', tip: 'Tip' }
const nameOf = (id: number) => people.value.find((p) => p.id === id)?.name ?? 'someone'
const ofFacts = [
  'mirror-',
  'inkjet',
  'wrong-ink',
  'not-for',
  'paper-heavy',
  'dark-base',
  'white-film',
  'candle-dark',
  'lip-zone',
  'picture-',
  'border-',
  'rights-',
]
const isFact = (f: Schemas['Finding']) => ofFacts.some((p) => f.rule.startsWith(p))

async function overrule(f: Schemas['Finding']) {
  const done = await act(() =>
    answerOf(
      api.POST('/api/products/{id}/overrides', {
        params: { path: { id: props.productId } },
        body: { rule: f.rule, stepId: f.stepId, reason: reason.value },
      }),
    ),
  )
  if (!done) return
  overruling.value = ''
  reason.value = ''
}
const withdraw = (id: number) =>
  act(() => answerOf(api.POST('/api/overrides/{id}/withdraw', { params: { path: { id } } })))
</script>

<template>
  <section aria-labelledby="wrong">
    <h2 id="wrong">Before it goes wrong</h2>
    <p v-if="findings.length === 0" class="note glaze">
      Nothing speaks against it: blank, picture, recipe and room get on.
    </p>
    <ul>
      <li v-for="f in findings" :key="keyOf(f)" :class="[f.level, { overruled: f.override }]">
        <span class="level"><LevelMark :level="f.level" /> {{ words[f.level] }}</span>
        <div>
          <p>
            <button v-if="f.stepId" class="word" type="button" @click="emit('step', f.stepId)">
              {{ f.stepName }}</button><template v-if="f.stepId">: </template>{{ f.why }}
          </p>
          <p class="fix">{{ f.fix }}</p>
          <p v-if="f.override" class="quiet">
            Overruled by {{ nameOf(f.override.personId) }},
            {{ dayName(dateOf(f.override.madeAt), dateOf(thisMinute)) }}: “{{ f.override.reason }}”
            <button class="word" type="button" :disabled="busy" @click="withdraw(f.override.id)">
              Let it hold again
            </button>
          </p>
          <ActRow v-else>
            <button v-if="isFact(f)" class="word" type="button" @click="emit('facts')">
              Mend it in blank and picture
            </button>
            <button
              v-if="f.level === 'stop' && !dirty"
              class="word"
              type="button"
              :aria-expanded="overruling === keyOf(f)"
              @click="overruling = overruling === keyOf(f) ? '' : keyOf(f)"
            >
              Overrule it
            </button>
          </ActRow>
          <form v-if="overruling === keyOf(f) && !f.override" novalidate @submit.prevent="overrule(f)">
            <TextField
              v-model="reason"
              label="Why it does not hold here"
              :fault="fault('reason')"
              hint="It stays on the record, with your name, and on every batch made with it."
              :rows="2"
              maxlength="400"
            />
            <TroubleNote :trouble="trouble" />
            <button class="side" type="submit" :disabled="busy">Overrule with this reason</button>
          </form>
        </div>
      </li>
    </ul>
    <p v-if="dirty && findings.some((f) => f.level === 'stop')" class="quiet">
      Stops can be overruled once the recipe is saved.
    </p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 10px;
  align-content: start;
}
li {
  display: grid;
  grid-template-columns: 92px 1fr;
  gap: 10px;
  padding: 9px 0;
  border-top: 1px solid var(--line);
}
.level {
  display: flex;
  gap: 6px;
  align-items: flex-start;
  font-weight: 650;
}
.stop .level {
  color: var(--brick);
}
.caution .level {
  color: var(--straw);
}
.tip .level {
  color: var(--glaze);
}
.overruled > div > p:first-child,
.overruled .fix {
  color: var(--soft);
}
.fix {
  font-weight: 600;
}
form {
  display: grid;
  gap: 8px;
  margin-top: 6px;
}
form .side {
  justify-self: start;
}
</style>
