<script setup lang="ts">
import { ref } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
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

const shines = [
  ['', 'it does not matter'],
  ['matt', 'matt'],
  ['satin', 'satin'],
  ['gloss', 'gloss'],
] as const

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
    <fieldset>
      <legend>What look is it to have?</legend>
      <label
        ><input v-model="look" type="radio" value="crisp" /> <b>crisp</b> small lifts and haze are not accepted</label
      >
      <label
        ><input v-model="look" type="radio" value="weathered" /> <b>weathered</b> small lifts and haze belong to
        it</label
      >
    </fieldset>
    <fieldset>
      <legend>How is it to shine?</legend>
      <label v-for="[key, name] in shines" :key="key"
        ><input v-model="sheen" type="radio" name="sheen" :value="key" /> <b>{{ name }}</b></label
      >
    </fieldset>
    <fieldset v-for="s in schools" :key="s.key">
      <legend>{{ s.question }}</legend>
      <label
        ><input v-model="chosen[s.key]" type="radio" :name="s.key" value="" :checked="!chosen[s.key]" />
        <b>as the method has it</b></label
      >
      <label v-for="c in (s.choices ?? []).filter((c) => !c.method)" :key="c.key"
        ><input v-model="chosen[s.key]" type="radio" :name="s.key" :value="c.key" /> <b>{{ c.name }}</b>
        {{ c.trades }}</label
      >
      <p v-for="c in (s.choices ?? []).filter((c) => c.method)" :key="c.key" class="quiet">
        {{ c.name }}: {{ c.trades }} <RouterLink to="/products/library">A method of its own</RouterLink>
      </p>
    </fieldset>
    <div class="foot">
      <p class="quiet">
        The method’s recipe is written anew with these answers. What you changed by hand is replaced; undo brings it
        back.
      </p>
      <p v-if="trouble" class="note brick" role="alert">{{ trouble.message }}</p>
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
legend {
  padding: 0 0 4px;
  font: 650 16px var(--heading);
}
label {
  display: block;
  padding: 4px 0 4px 30px;
  text-indent: -30px;
  color: var(--soft);
}
label b {
  color: var(--ink);
}
input {
  width: 20px;
  height: 20px;
  margin: 0 6px 0 0;
  vertical-align: -4px;
  accent-color: var(--glaze);
}
.foot {
  display: grid;
  gap: 8px;
  align-content: end;
  justify-items: start;
}
@media (max-width: 640px) {
  label {
    min-height: 48px;
  }
}
</style>
