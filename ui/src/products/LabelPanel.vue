<script setup lang="ts">
import TroubleNote from '../shared/TroubleNote.vue'
import { computed, ref } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { noDuration } from '../shared/reading'
import { say } from '../shared/toast'
import { labelBody, labelSaid, labelText, noLabel } from '../stores/label'
import LabelFields from '../stores/LabelFields.vue'

// What the labels of the recipe's materials say of their rests, asked once a material;
// a recipe that is other is made as they say as a change that can be undone.
const props = defineProps<{ productId: number; dirty: boolean }>()
const emit = defineEmits<{ take: [recipe: Schemas['RecipeForm']] }>()
const { act, refuse, busy, trouble, fault } = useAct()

type Material = Schemas['LabelledMaterial']
const { data: held } = useAnswer('/api/products/{id}/labels', () => ({ path: { id: props.productId } }))
const asked = computed(() => held.value?.materials.filter((m) => !m.labelRead).length ?? 0)
const editing = ref<Material>()
const form = ref(noLabel())

function edit(m: Material) {
  trouble.value = null
  form.value = labelText(m)
  editing.value = editing.value?.id === m.id ? undefined : m
}
async function keep() {
  const { body, unread } = labelBody(form.value)
  if (unread) return refuse(unread, noDuration)
  const { id, version, name } = editing.value!
  const saved = await act(() =>
    answerOf(api.PUT('/api/materials/{id}/label', { params: { path: { id } }, body: { ...body, version } })),
  )
  if (!saved) return
  editing.value = undefined
  say({ text: `Kept with ${name}, wherever it is used.` })
}
</script>

<template>
  <section v-if="held?.materials.length" class="labels" aria-labelledby="labels">
    <h2 id="labels">What the labels say</h2>
    <p v-if="asked" class="quiet">Read it once off each pot: rests go by it, not by what is usual.</p>
    <ul>
      <li v-for="m in held.materials" :key="m.id">
        <p>
          <b>{{ m.name }}</b> {{ labelSaid(m) }}
          <button class="word" type="button" :aria-expanded="editing?.id === m.id" @click="edit(m)">
            {{ m.labelRead ? 'Change' : 'Say it' }}<span class="spoken"> of {{ m.name }}</span>
          </button>
        </p>
        <form v-if="editing?.id === m.id" novalidate @submit.prevent="keep">
          <LabelFields v-model="form" :fault="fault" />
          <TroubleNote :trouble="trouble" />
          <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'That is what it says' }}</button>
        </form>
      </li>
    </ul>
    <div v-if="held.changes.length && !dirty" class="note">
      <p><b>By the labels this recipe would be other:</b> {{ held.changes.join(' · ') }}</p>
      <button class="side" type="button" @click="emit('take', held.recipe)">Make it as the labels say</button>
      <p class="quiet">Nothing is saved by that: you see what it changes, and can undo it.</p>
    </div>
  </section>
</template>

<style scoped>
.labels {
  display: grid;
  gap: 8px;
  margin-top: 24px;
  padding-top: 14px;
  border-top: 1px solid var(--line);
}
ul {
  display: grid;
  gap: 4px;
  margin: 0;
  padding: 0;
  list-style: none;
}
form {
  display: grid;
  gap: 10px;
  justify-items: start;
  max-width: 640px;
  padding: 12px;
  border: 1px solid var(--line);
  background: var(--paper);
}
.note {
  display: grid;
  gap: 6px;
  justify-items: start;
}
</style>
