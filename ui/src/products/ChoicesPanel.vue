<script setup lang="ts">
import TroubleNote from '../shared/TroubleNote.vue'
import ChoiceField from '../shared/ChoiceField.vue'
import { ref } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import type { Choice } from '../shared/choices'
import { useAct } from '../shared/act'

// Where practitioners differ: each question with its answers, and what each trades.
// The method's recipe is proposed anew with the answers, as a change that can be undone.
const props = defineProps<{
  productId: number
  look: Schemas['RecipeForm']['look']
  sheen: Schemas['RecipeForm']['sheen']
  choices: Record<string, string> | undefined
  schools: Schemas['School'][]
}>()
const emit = defineEmits<{ proposed: [draft: Schemas['Draft']] }>()
const { act, busy, trouble } = useAct()
const chosen = ref<Record<string, string>>({ ...props.choices })
const look = ref(props.look)
const sheen = ref<Schemas['RecipeForm']['sheen'] | ''>(props.sheen ?? '')

const looks: (Choice<typeof look.value> & { about: string })[] = [
  { value: 'crisp', name: 'crisp', about: 'small lifts and haze are not accepted' },
  { value: 'weathered', name: 'weathered', about: 'small lifts and haze belong to it' },
]
const shines: Choice<typeof sheen.value>[] = [
  { value: '', name: 'it does not matter' },
  { value: 'matt', name: 'matt' },
  { value: 'satin', name: 'satin' },
  { value: 'gloss', name: 'gloss' },
]
const answersOf = (s: Schemas['School']) => [
  { value: '', name: 'as the method has it' },
  ...(s.choices ?? []).filter((c) => !c.method).map((c) => ({ value: c.key, name: c.name, about: c.trades })),
]

async function propose() {
  const choices = Object.fromEntries(Object.entries(chosen.value).filter(([, v]) => v !== ''))
  const draft = await act(() =>
    answerOf(
      api.POST('/api/products/{id}/recipe/propose', {
        params: { path: { id: props.productId } },
        body: { look: look.value, choices },
      }),
    ),
  )
  if (draft) emit('proposed', { ...draft, sheen: sheen.value || undefined })
}
</script>

<template>
  <form class="choices" @submit.prevent="propose">
    <ChoiceField v-model="look" label="What look is it to have?" :choices="looks" />
    <ChoiceField v-model="sheen" label="How is it to shine?" :choices="shines" />
    <ChoiceField
      v-for="s in schools"
      :key="s.key"
      :model-value="chosen[s.key] ?? ''"
      :label="s.question"
      :choices="answersOf(s)"
      @update:model-value="chosen[s.key] = $event"
    >
      <p v-for="c in (s.choices ?? []).filter((c) => c.method)" :key="c.key" class="quiet">
        {{ c.name }}: {{ c.trades }} <RouterLink to="/products/library">A method of its own</RouterLink>
      </p>
    </ChoiceField>
    <div class="foot">
      <p class="quiet">
        The method’s recipe is written anew with these answers. What you changed by hand is replaced; undo brings it
        back.
      </p>
      <TroubleNote :trouble="trouble" whole />
      <button class="act" type="submit" :disabled="busy">Propose it so</button>
    </div>
  </form>
</template>

<style scoped>
.choices {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 360px), 1fr));
  gap: 16px 28px;
  margin-bottom: 14px;
  padding: 14px 18px;
  border: 1px solid var(--line);
  background: var(--sheet);
}
.foot {
  display: grid;
  gap: 8px;
  align-content: end;
  justify-items: start;
}
</style>
