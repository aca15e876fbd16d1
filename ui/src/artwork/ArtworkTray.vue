<script setup lang="ts">
import { computed } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { choicesOf } from '../shared/choices'
import ClashNote from '../shared/ClashNote.vue'
import DateField from '../shared/DateField.vue'
import { useDraft } from '../shared/draft'
import FootedForm from '../shared/FootedForm.vue'
import PickField from '../shared/PickField.vue'
import SaveTrouble from '../shared/SaveTrouble.vue'
import TextField from '../shared/TextField.vue'
import TickBox from '../shared/TickBox.vue'
import { say } from '../shared/toast'
import { rights } from '../shared/words'
import ArtworkFacts from './ArtworkFacts.vue'
import { fileAt } from './said'
import ThingTrail from '../trail/ThingTrail.vue'

// One picture: what its pixels say, and what people know of it.
const props = defineProps<{ id: number }>()
const emit = defineEmits<{ close: [] }>()
const { data: artworks } = useAnswer('/api/artworks')
const artwork = computed(() => artworks.value?.find((a) => a.id === props.id))
const { act, busy, trouble, fault } = useAct()

const formOf = (a: Schemas['Artwork']) => ({
  title: a.title,
  rights: a.rights,
  rightsNote: a.rightsNote,
  rightsOn: a.rightsOn ?? '',
  showsPeople: a.showsPeople,
  consent: a.consent,
  lettering: a.lettering,
})
const { form, version, clashes, keepMine, takeTheirs } = useDraft(() => artwork.value, formOf)
const names = {
  title: 'Title',
  rights: 'It is',
  rightsNote: 'By whom, from where',
  rightsOn: 'On which day',
  showsPeople: 'It shows people',
  consent: 'Who agreed',
  lettering: 'There is lettering in it',
}

async function save() {
  const body = { ...form.value!, rightsOn: form.value!.rightsOn || undefined, version: version.value }
  await act(() => answerOf(api.PUT('/api/artworks/{id}', { params: { path: { id: props.id } }, body })))
  if (!trouble.value) say({ text: 'Saved. It holds wherever the picture is.' })
}
async function putAway() {
  const { id, title } = artwork.value!
  const at = { params: { path: { id } } }
  await act(() => answerOf(api.POST('/api/artworks/{id}/archive', at)))
  if (trouble.value) return
  emit('close')
  say({
    text: `${title} is put away.`,
    action: 'Undo',
    act: () => act(() => answerOf(api.POST('/api/artworks/{id}/restore', at))),
  })
}
</script>

<template>
  <p v-if="artworks && !artwork" class="note brick">This picture is not here any more.</p>
  <FootedForm v-else-if="artwork && form" @send="save">
    <h1>{{ artwork.title }}</h1>
    <p v-if="artwork.state === 'reading'" class="quiet">It has come, and is being read.</p>
    <p v-else-if="artwork.state === 'refused'" class="note brick">{{ artwork.refusal }}</p>
    <template v-else>
      <img class="view" :src="fileAt(artwork.view)" :alt="`The picture ${artwork.title}`" />
      <ArtworkFacts :artwork="artwork" />
      <p><RouterLink :to="`/products/new?artwork=${artwork.id}`">Make a product of it</RouterLink></p>
    </template>
    <div class="fields">
      <TextField v-model="form.title" :label="names.title" :fault="fault('title')" maxlength="120" />
      <PickField v-model="form.rights" :label="names.rights" :fault="fault('rights')" :choices="choicesOf(rights)" />
      <TextField v-model="form.rightsNote" :label="names.rightsNote" :fault="fault('rightsNote')" maxlength="300" />
      <DateField v-model="form.rightsOn" :label="names.rightsOn" :fault="fault('rightsOn')" />
      <TickBox v-model="form.showsPeople">It shows people</TickBox>
      <TextField
        v-if="form.showsPeople"
        v-model="form.consent"
        :label="names.consent"
        :fault="fault('consent')"
        hint="Who of those shown agreed to its being sold, and how you know."
        maxlength="300"
      />
      <TickBox v-model="form.lettering">There is lettering in it</TickBox>
      <ClashNote :clashes="clashes" :names="names" @mine="keepMine" @theirs="takeTheirs" />
      <p class="ends">
        <a class="word" :href="fileAt(artwork.original)" :download="artwork.fileName">The file as it came</a>
        <button class="word" type="button" :disabled="busy" @click="putAway">Put it away</button>
      </p>
      <ThingTrail :id="artwork.id" about="artworks" />
    </div>
    <template #foot>
      <SaveTrouble :trouble="trouble" />
      <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'Save' }}</button>
    </template>
  </FootedForm>
</template>

<style scoped>
.view {
  display: block;
  max-width: 100%;
  max-height: 190px;
  margin: 0 auto;
  border: 1px solid var(--line);
}
.fields {
  display: grid;
  gap: 10px;
}
.ends {
  display: flex;
  justify-content: space-between;
  gap: 16px;
}
.ends a {
  color: inherit;
}
</style>
