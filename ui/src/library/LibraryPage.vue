<script setup lang="ts">
import EmptyNote from '../shared/EmptyNote.vue'
import FileField from '../shared/FileField.vue'
import TextField from '../shared/TextField.vue'
import { computed, ref } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { say } from '../shared/toast'
import { surfaceWords } from '../shared/words'
import MethodEntry from './MethodEntry.vue'
import PageHead from '../shared/PageHead.vue'

// Every method with what it suits, found by any of its words; one's own beside the built-in ones.
const { data: methods } = useAnswer('/api/methods')
const { act, busy, fault, trouble } = useAct()
const text = ref('')
const bringing = ref(false)
const file = ref('')

const wordsOf = (m: Schemas['MethodEntry']) =>
  [
    m.name,
    m.about,
    m.removal,
    ...(m.surfaces ?? []).map(surfaceWords),
    ...(m.prints ?? []).map((p) => `${p.kind} ${p.carrier}`),
    ...(m.steps ?? []).map((s) => s.name),
    m.builtIn ? '' : 'yours own',
  ]
    .join(' ')
    .toLowerCase()
const found = computed(() => {
  const terms = text.value.toLowerCase().split(/\s+/).filter(Boolean)
  return (methods.value ?? []).filter((m) => terms.every((t) => wordsOf(m).includes(t)))
})

async function read(chosen: File) {
  file.value = await chosen.text()
}
async function bring() {
  const made = await act(() => answerOf(api.POST('/api/methods', { body: { text: file.value } })))
  if (!made) return
  bringing.value = false
  file.value = ''
  say({ text: `“${made.name}” is in the library now.` })
}
const fileFault = computed(() => {
  const [where, what] = Object.entries(trouble.value?.fields ?? {})[0] ?? []
  return where === undefined ? fault('text') : `${where.replace(/^text\.?/, '') || 'the file'}: ${what}`
})
</script>

<template>
  <PageHead name="The library of methods">
    <div class="find">
      <TextField
        v-model="text"
        bare
        type="search"
        label="Search the methods"
        placeholder="glass, lettering, no paper to rub"
        maxlength="80"
      />
    </div>
    <button class="side" type="button" :aria-expanded="bringing" @click="bringing = !bringing">
      Bring a method in
    </button>
    <template #acts>
      <RouterLink class="word" to="/products/new">What can I make?</RouterLink>
    </template>
  </PageHead>
  <form v-if="bringing" class="bring" novalidate @submit.prevent="bring">
    <TextField
      v-model="file"
      label="A method file (JSON)"
      :rows="6"
      :fault="fileFault"
      spellcheck="false"
      hint="As “Take it out as a file” writes it. A method of yours with the same key is replaced."
    />
    <FileField label="From a file" accept=".json,application/json" @file="read" />
    <a href="/api/method-schema" download>The file’s schema</a>
    <button class="act" type="submit" :disabled="busy || file === ''">Bring it in</button>
  </form>
  <EmptyNote v-if="methods && found.length === 0">
    No method has all of these words. <button class="word" type="button" @click="text = ''">Show all</button>
  </EmptyNote>
  <ul class="methods">
    <MethodEntry v-for="m in found" :key="m.key" :method="m" />
  </ul>
</template>

<style scoped>
.find {
  width: min(100%, 320px);
}
.bring {
  display: grid;
  gap: 10px;
  justify-items: start;
  margin-bottom: 14px;
  padding: 14px 18px;
  border: 1px solid var(--line);
  background: var(--sheet);
}
.bring > :first-child {
  width: 100%;
}
</style>
