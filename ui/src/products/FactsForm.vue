<script setup lang="ts">
import { figure } from '../shared/habit'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import ClashNote from '../shared/ClashNote.vue'
import { useDraft } from '../shared/draft'
import SaveTrouble from '../shared/SaveTrouble.vue'
import TickBox from '../shared/TickBox.vue'
import TextField from '../shared/TextField.vue'
import { say } from '../shared/toast'
import { carriers, printers, rights } from '../shared/words'
import ArtworkPick from '../artwork/ArtworkPick.vue'
import BlankFields from './BlankFields.vue'
import { blankForm, factNames, pictureForm } from './forms'
import FieldPair from '../shared/FieldPair.vue'
import PickField from '../shared/PickField.vue'
import { choicesOf } from '../shared/choices'

// What a product is made of and shows: the facts that its checks rest on.
const props = defineProps<{ product: Schemas['Detail'] }>()
const emit = defineEmits<{ saved: [] }>()
const { act, busy, trouble, fault } = useAct()

const { form, version, clashes, keepMine, takeTheirs } = useDraft(
  () => props.product,
  (p) => ({
    blank: { ...blankForm(p.blank), sides: p.blank.sides || 1 },
    picture: { ...pictureForm(p.picture, p.artworkId), mirrored: undefined },
    lettered: p.lettered,
    mirrored: p.picture.mirrored === undefined ? '' : String(p.picture.mirrored),
  }),
)

async function save() {
  const { blank, picture, lettered, mirrored } = form.value!
  const body = {
    blank,
    picture: { ...picture, mirrored: mirrored === '' ? undefined : mirrored === 'true' },
    lettered,
    version: version.value,
  }
  const saved = await act(() =>
    answerOf(api.PUT('/api/products/{id}/facts', { params: { path: { id: props.product.id } }, body })),
  )
  if (!saved) return
  say({ text: 'Saved, and checked anew.' })
  emit('saved')
}
</script>

<template>
  <form v-if="form" class="facts" novalidate @submit.prevent="save">
    <div class="col">
      <h2>The blank</h2>
      <BlankFields v-model="form.blank" :fault="fault" />
    </div>
    <div class="col">
      <h2>The picture and its print</h2>
      <TickBox v-model="form.lettered">Each piece has its own lettering</TickBox>
      <ArtworkPick v-model="form.picture.artworkId" :fault="fault('picture.artworkId')" />
      <TickBox v-if="!form.picture.artworkId" v-model="form.picture.slogan"
        >All pieces carry the same words in the picture</TickBox
      >
      <p v-if="product.design" class="quiet">
        It is printed {{ figure(product.picture.widthMm ?? 0, 0) }} × {{ figure(product.picture.heightMm ?? 0, 0) }} mm,
        <RouterLink :to="`/prints/design/${product.id}`">as it is laid out</RouterLink>.
      </p>
      <TickBox v-else v-model="form.picture.round">The picture is cut round</TickBox>
      <PickField
        v-if="!form.picture.artworkId && !product.ownPictures"
        v-model="form.mirrored"
        label="The print file is"
        :fault="fault('picture.mirrored')"
        :hint="
          product.mirror === 'mirrored'
            ? 'It must be mirrored for this method and blank.'
            : 'It must not be mirrored for this method and blank.'
        "
        :choices="[
          { value: '', name: 'not said' },
          { value: 'true', name: 'mirrored' },
          { value: 'false', name: 'as it is' },
        ]"
      />
      <FieldPair>
        <PickField
          v-model="form.picture.kind"
          label="Printed with"
          :fault="fault('picture.kind')"
          :choices="[{ value: undefined, name: 'not said' }, ...choicesOf(printers)]"
        />
        <PickField
          v-model="form.picture.carrier"
          label="On"
          :fault="fault('picture.carrier')"
          :choices="[{ value: undefined, name: 'not said' }, ...choicesOf(carriers)]"
        />
      </FieldPair>
      <FieldPair>
        <TextField
          v-if="!product.design"
          v-model="form.picture.width"
          label="Picture width"
          :fault="fault('picture.width')"
          maxlength="40"
        />
        <TextField
          v-if="!product.design"
          v-model="form.picture.height"
          label="Picture height"
          :fault="fault('picture.height')"
          maxlength="40"
        />
        <TextField
          v-model="form.picture.gsm"
          numeric
          label="Paper, g/m²"
          :fault="fault('picture.gsm')"
          hint="60 to 100 rubs off best."
        />
        <TextField
          v-if="!form.picture.artworkId"
          v-model="form.picture.inkShare"
          numeric
          label="Share that is covered"
          :fault="fault('picture.inkShare')"
          :hint="`0 to 1: text ${figure(0.05)}, a full photo ${figure(0.9)}. Toner goes by it.`"
        />
        <TextField
          v-if="!form.picture.artworkId"
          v-model="form.picture.ppi"
          numeric
          label="Pixels an inch"
          :fault="fault('picture.ppi')"
          hint="300 is good."
        />
      </FieldPair>
      <PickField
        v-if="!form.picture.artworkId"
        v-model="form.picture.rights"
        label="The picture is"
        :fault="fault('picture.rights')"
        :choices="[{ value: undefined, name: 'not said' }, ...choicesOf(rights)]"
      />
      <SaveTrouble :trouble="trouble" />
      <ClashNote :clashes="clashes" :names="factNames" @mine="keepMine" @theirs="takeTheirs" />
      <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'Save and check' }}</button>
    </div>
  </form>
</template>

<style scoped>
.facts {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 32px;
  margin-bottom: 14px;
  padding: 14px 18px;
  border: 1px solid var(--line);
  background: var(--sheet);
}
.col {
  display: grid;
  gap: 10px;
  align-content: start;
}
.act {
  justify-self: start;
}
@media (max-width: 900px) {
  .facts {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
