<script setup lang="ts">
import { computed, reactive } from 'vue'
import { useRoute } from 'vue-router'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { namesFault, typedNames } from '../orders/names'
import ActRow from '../shared/ActRow.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import TextField from '../shared/TextField.vue'
import TroubleNote from '../shared/TroubleNote.vue'
import WaitingRows from '../shared/WaitingRows.vue'

// A quote, for whom it was made, who says yes or no and gives the names.
const route = useRoute()
const token = computed(() => String(route.params.token))
const at = () => ({ path: { token: token.value } })
const { data: quote, error } = useAnswer('/api/shown-quotes/{token}', at)
const { act, busy, trouble } = useAct()
const typed = reactive<Record<number, string>>({})
const namesOf = (l: Schemas['ShownLine']) => typed[l.id] ?? l.lettering.join('\n')
const said: Record<Schemas['ShownQuote']['state'], string> = {
  open: '',
  accepted: 'You have accepted this. Thank you: you hear from the studio.',
  declined: 'You have said that you do not want this. Thank you for the answer.',
  withdrawn: 'The studio has taken this quote back. Ask for another one.',
  lapsed: 'This quote does not stand any more. Ask for another one.',
}
function answer(accept: boolean) {
  const lettering = accept ? (quote.value?.lines ?? []).map((l) => (l.lettered ? typedNames(namesOf(l)) : [])) : []
  return act(() => answerOf(api.POST('/api/shown-quotes/{token}', { params: at(), body: { accept, lettering } })))
}
</script>

<template>
  <main id="page" class="shown">
    <template v-if="error && !quote">
      <h1>Nothing is here</h1>
      <EmptyNote>This address shows nothing any more. Ask the studio for the one that holds now.</EmptyNote>
    </template>
    <WaitingRows v-else-if="!quote" />
    <template v-else>
      <h1>A quote for {{ quote.customer }}</h1>
      <p class="quiet">Quote {{ quote.number }} of {{ quote.studio }}</p>
      <p v-if="said[quote.state]" class="note glaze">{{ said[quote.state] }}</p>
      <ul>
        <li v-for="l in quote.lines" :key="l.id">
          <img v-if="l.pictured" :src="`/api/shown-quotes/${token}/pictures/${l.id}`" alt="" />
          <span v-else />
          <span class="what"
            ><b>{{ l.quantity }} × {{ l.product }}</b
            ><span class="quiet">{{ l.each }} each</span
            ><span v-if="l.lettering.length" class="quiet">{{ l.lettering.join(', ') }}</span></span
          >
          <span>{{ l.amount }}</span>
        </li>
      </ul>
      <p v-for="s in quote.sums" :key="s.name" class="sum" :class="{ quiet: !s.main }">
        <span>{{ s.name }}</span><component :is="s.main ? 'b' : 'span'">{{ s.amount }}</component>
      </p>
      <p v-if="quote.deposit">{{ quote.deposit }} of it is asked for ahead.</p>
      <p v-for="w in quote.words" :key="w">{{ w }}</p>
      <p v-if="quote.note" class="note-of">{{ quote.note }}</p>
      <form v-if="quote.state === 'open'" novalidate @submit.prevent="answer(true)">
        <template v-for="(l, i) in quote.lines" :key="l.id">
          <TextField
            v-if="l.lettered"
            :model-value="namesOf(l)"
            :label="`What is to stand on ${l.product}, one a line · ${typedNames(namesOf(l)).length} of ${l.quantity}`"
            :rows="4"
            :fault="namesFault(trouble?.fields, i)"
            @update:model-value="typed[l.id] = String($event)"
          />
        </template>
        <TroubleNote :trouble="trouble" />
        <ActRow>
          <button class="act" type="submit" :disabled="busy">Accept the quote</button>
          <button class="side" type="button" :disabled="busy" @click="answer(false)">I do not want it</button>
        </ActRow>
      </form>
      <p><a :href="`/api/shown-quotes/${token}/pdf`" target="_blank">The quote on paper (PDF)</a></p>
    </template>
  </main>
</template>

<style scoped>
.shown {
  display: grid;
  gap: 12px;
  max-width: 640px;
  margin: 0 auto;
  padding: 24px 20px 60px;
}
form {
  display: grid;
  gap: 12px;
}
li {
  display: grid;
  grid-template-columns: 64px minmax(0, 1fr) auto;
  gap: 4px 14px;
  align-items: center;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
img {
  width: 64px;
  height: 64px;
  object-fit: contain;
}
.what {
  display: grid;
  line-height: 1.35;
  overflow-wrap: anywhere;
}
.sum {
  display: flex;
  gap: 12px;
  justify-content: space-between;
}
.note-of {
  white-space: pre-line;
  overflow-wrap: anywhere;
}
@media (max-width: 640px), (pointer: coarse) {
  .shown :deep(button) {
    min-height: 48px;
  }
}
</style>
