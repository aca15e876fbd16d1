<script setup lang="ts">
import { ref } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import TextField from '../shared/TextField.vue'
import { moment } from '../shared/time'
import { say } from '../shared/toast'

// The recipe's versions, any of which can come back, and the recipe as a method of one's own.
const props = defineProps<{ product: Schemas['Detail']; dirty: boolean }>()
const { act, tell, busy, fault } = useAct()
const name = ref('')

async function restore(number: number) {
  const { id, version } = props.product
  const saved = await tell(() =>
    answerOf(
      api.POST('/api/products/{id}/recipe/{number}/restore', { params: { path: { id, number } }, body: { version } }),
    ),
  )
  if (saved) say({ text: `Recipe ${number} is back, as recipe ${saved.recipeNumber}.` })
}
async function keep() {
  const made = await act(() =>
    answerOf(
      api.POST('/api/products/{id}/method', {
        params: { path: { id: props.product.id } },
        body: { name: name.value },
      }),
    ),
  )
  if (!made) return
  name.value = ''
  say({ text: `“${made.name}” is in the library now.` })
}
</script>

<template>
  <div class="versions">
    <section>
      <h2>Versions</h2>
      <ol>
        <li v-for="v in product.versions" :key="v.number">
          <span
            >Recipe {{ v.number }} <span class="quiet">{{ moment(v.createdAt, thisMinute) }}</span></span
          >
          <span v-if="v.changed.length" class="quiet differs">{{ v.changed.join(' · ') }}</span>
          <span v-if="v.number === product.recipeNumber" class="quiet">in use</span>
          <button v-else class="word" type="button" :disabled="busy || dirty" @click="restore(v.number)">
            Bring back<span class="spoken"> recipe {{ v.number }}</span>
          </button>
        </li>
      </ol>
    </section>
    <form novalidate @submit.prevent="keep">
      <h2>Keep it as a method of yours</h2>
      <TextField
        v-model="name"
        label="Name of the method"
        :fault="fault('name')"
        hint="The saved recipe, for other products. Built-in methods stay as they are."
        maxlength="120"
      />
      <button class="side" type="submit" :disabled="busy">Keep it</button>
    </form>
  </div>
</template>

<style scoped>
.versions {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 32px;
  margin-bottom: 14px;
  padding: 14px 18px;
  border: 1px solid var(--line);
  background: var(--sheet);
}
form {
  display: grid;
  gap: 8px;
  align-content: start;
  justify-items: start;
}
form > :nth-child(2) {
  width: 100%;
}
li {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 12px;
  padding: 5px 0;
  border-top: 1px solid var(--line);
}
.differs {
  order: 3;
  flex-basis: 100%;
  font-size: 14px;
}
@media (max-width: 900px) {
  .versions {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
