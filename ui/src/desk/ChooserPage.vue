<script setup lang="ts">
import InTurn from '../shared/InTurn.vue'
import TroubleNote from '../shared/TroubleNote.vue'
import FoldBox from '../shared/FoldBox.vue'
import { plainDecimal } from '../shared/reading'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useAnswer, useAsked } from '../api/answers'
import { answerOf, api, Trouble, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import TickBox from '../shared/TickBox.vue'
import TextField from '../shared/TextField.vue'
import { unit } from '../shared/money'
import { printers } from '../shared/words'
import ArtworkPick from '../artwork/ArtworkPick.vue'
import BlankFields from '../products/BlankFields.vue'
import { drawnBlank, type BlankForm } from '../products/forms'
import ProductPicture from '../products/ProductPicture.vue'
import RankedMethod from './RankedMethod.vue'
import FieldPair from '../shared/FieldPair.vue'
import PickField from '../shared/PickField.vue'

// What can be made of it: from blank, picture and printer to the methods, ranked
// with their reasons and with how long each takes here; one tap makes the product.
const router = useRouter()
const { act, refuse, busy, trouble, fault } = useAct()
const entering = useAct()

const blank = ref<BlankForm>({
  surface: 'wood-bare',
  tone: 'light',
  shape: 'disc',
  width: '90 mm',
  height: '',
  thickness: '10 mm',
  sides: 1,
  hangs: true,
})
const name = ref('')
const look = ref<'crisp' | 'weathered'>('crisp')
const content = ref({ lettered: false, photo: false, white: false })
const size = ref({ width: '', height: '' })
// A picture that was looked at comes along.
const artworkId = ref(Number(useRoute().query.artwork) || undefined)
const { data: artworks } = useAnswer('/api/artworks')
const artwork = computed(() => artworks.value?.find((a) => a.id === artworkId.value))
type Printer = Schemas['Wish']['printers'][number]
const unmade = computed(() => Object.values(trouble.value?.fields ?? {})[0])
const have = ref<Printer[]>(['toner'])
const turn = (key: Printer, on: boolean) =>
  (have.value = on ? [...have.value, key] : have.value.filter((k) => k !== key))
const pieces = ref(12)
const days = ref(0)
const material = ref('')
const price = ref('')
const { data: materials } = useAnswer('/api/material-names')
// The plain wooden blank that every studio begins with is none of glass or wax.
const wooden = computed(() => ['wood-bare', 'wood-painted', 'board-painted'].includes(blank.value.surface))
const blanks = computed(
  () => materials.value?.filter((m) => m.kind === 'blank' && (wooden.value || m.materialKey !== 'plain-blank')) ?? [],
)
const unknownYet = 'new'
const fresh = ref({ name: '', unitCost: '' })
watch(
  blanks,
  (all) => {
    if (!materials.value || material.value === unknownYet || all.some((m) => m.materialKey === material.value)) return
    material.value = (wooden.value && all.find((m) => m.materialKey === 'plain-blank')?.materialKey) || unknownYet
  },
  { immediate: true },
)

const wish = computed<Schemas['Wish']>(() => ({
  blank: blank.value,
  picture: { artworkId: artworkId.value, width: size.value.width, height: size.value.height },
  look: look.value,
  ...content.value,
  printers: have.value,
  pieces: Math.max(1, Math.min(500, Math.round(pieces.value) || 1)),
  days: Math.max(0, Math.min(120, Math.round(days.value) || 0)),
}))
// Asked when the typing pauses, not at every key.
const asking = computed(() => JSON.stringify(wish.value))
const asked = ref(asking.value)
let pause = 0
watch(asking, (text) => {
  window.clearTimeout(pause)
  pause = window.setTimeout(() => (asked.value = text), 250)
})
const { data: chosen, error } = useAsked('/api/choose-method', () => JSON.parse(asked.value) as Schemas['Wish'], {
  keep: true,
})
const refused = computed(() => (error.value instanceof Trouble ? error.value.fields : {}))
const faultOf = (field: string) => fault(field) || refused.value[field] || ''
// What stands in the way of weighing, by the first field at fault.
const fieldNames: Record<string, string> = {
  'blank.width': 'Width',
  'blank.height': 'Height',
  'blank.thickness': 'Thickness',
  'blank.rimGap': 'From picture to rim',
  'picture.artworkId': 'Picture',
  'picture.width': 'Picture width',
  'picture.height': 'Picture height',
}
const missing = computed(() => {
  const [field, words] = Object.entries(refused.value)[0] ?? []
  if (!field) return error.value?.message
  return fieldNames[field] ? `${fieldNames[field]}: ${words}.` : words
})
const fits = computed(() => chosen.value?.methods.filter((m) => m.fits) ?? [])
const rest = computed(() => chosen.value?.methods.filter((m) => !m.fits) ?? [])

// A blank that is not in the stores yet goes in before the product that is made of it.
async function enterBlank() {
  const { name, unitCost } = fresh.value
  const body = {
    name,
    kind: 'blank',
    unit: 'piece',
    leadDays: 5,
    hazard: '',
    sort: '',
    unitCost: plainDecimal(unitCost) || '0',
  } as const
  const added = await entering.act(() => answerOf(api.POST('/api/materials', { body })))
  if (!added) return false
  material.value = added.materialKey
  fresh.value = { name: '', unitCost: '' }
  return true
}

async function make(m: Schemas['Ranked']) {
  if (material.value === unknownYet) {
    // Nothing goes into the stores for a product that has no name yet.
    if (!name.value.trim()) return refuse('name', 'cannot be empty')
    if (!fresh.value.name.trim()) return refuse('material', 'say what the blank is called')
    if (!(await enterBlank())) return
  }
  const made = await act(() =>
    answerOf(
      api.POST('/api/products', {
        body: {
          name: name.value,
          method: m.key,
          blank: blank.value,
          picture: {
            artworkId: artworkId.value,
            width: size.value.width,
            height: size.value.height,
            kind: m.print.kind,
            carrier: m.print.carrier,
          },
          look: look.value,
          lettered: content.value.lettered,
          material: material.value,
          price: plainDecimal(price.value),
        },
      }),
    ),
  )
  if (made) await router.push(`/products/${made.id}`)
}
</script>

<template>
  <h1>What can I make?</h1>
  <div class="chooser">
    <form class="wish" novalidate @submit.prevent>
      <div class="top">
        <ProductPicture :name="name || 'Yours'" :blank="drawnBlank(blank)" :artwork="artwork" />
        <TextField v-model="name" label="Name it" :fault="faultOf('name')" maxlength="120" />
      </div>
      <InTurn>
        <h2>The blank</h2>
        <BlankFields v-model="blank" :fault="faultOf" />
      </InTurn>
      <InTurn
        ><PickField
          v-model="material"
          label="From the stores"
          :fault="material === unknownYet ? '' : faultOf('material')"
          :choices="[
            ...blanks.map((m) => ({ value: m.materialKey, name: m.name })),
            { value: unknownYet, name: 'one that is not in the stores yet' },
          ]"
        />
        <FieldPair v-if="material === unknownYet" least="92px">
          <TextField
            v-model="fresh.name"
            label="The blank’s name"
            :fault="entering.fault('name') || fault('material')"
            maxlength="120"
          />
          <TextField
            v-model="fresh.unitCost"
            :label="`What one costs, ${unit()}`"
            :fault="entering.fault('unitCost')"
            maxlength="12"
          />
        </FieldPair>
        <h2>The picture</h2>
        <ArtworkPick v-model="artworkId" :fault="faultOf('picture.artworkId')" />
        <fieldset>
          <TickBox v-model="content.lettered">Lettering, its own on each piece</TickBox>
          <TickBox v-model="content.photo">A photo</TickBox>
          <TickBox v-model="content.white">White in it must stay white</TickBox>
        </fieldset>
        <FieldPair least="92px">
          <TextField
            v-model="size.width"
            label="Picture width"
            :fault="faultOf('picture.width')"
            hint="Empty: the whole face"
            maxlength="40"
          />
          <TextField v-model="size.height" label="Picture height" :fault="faultOf('picture.height')" maxlength="40" />
        </FieldPair>
        <PickField
          v-model="look"
          label="Look"
          :fault="faultOf('look')"
          hint="Weathered accepts small lifts and haze; crisp does not."
          :choices="[
            { value: 'crisp', name: 'crisp' },
            { value: 'weathered', name: 'weathered' },
          ]"
        />
        <fieldset>
          <legend>Printers at hand</legend>
          <TickBox
            v-for="(words, key) in printers"
            :key="key"
            :model-value="have.includes(key as Printer)"
            @update:model-value="turn(key as Printer, Boolean($event))"
            >{{ words }}</TickBox
          >
        </fieldset> </InTurn
      ><InTurn
        ><h2>How many, by when</h2>
        <FieldPair least="92px">
          <TextField v-model="pieces" numeric label="Pieces" :fault="faultOf('pieces')" />
          <TextField v-model="days" numeric label="Days there are" :fault="faultOf('days')" hint="0: no hurry" />
          <TextField
            v-model="price"
            :label="`Price, ${unit()}`"
            :fault="faultOf('price')"
            hint="Empty: keeps your margin"
            maxlength="12"
          />
        </FieldPair>
      </InTurn>
    </form>
    <InTurn
      ><section aria-labelledby="ways" aria-live="polite">
        <h2 id="ways">
          {{
            error
              ? 'Not weighed yet'
              : !chosen
                ? 'Weighing the methods'
                : fits.length === 0
                  ? 'No method fits it so'
                  : fits.length === 1
                    ? 'One way to make it'
                    : `${fits.length} ways to make it`
          }}
        </h2>
        <TroubleNote :trouble="trouble" />
        <p v-if="unmade" class="note brick" role="alert">Not made yet: {{ unmade }}.</p>
        <p v-if="error" class="note" role="alert">{{ missing }}</p>
        <div v-if="chosen?.instead.length" class="note">
          <p v-for="i in chosen.instead" :key="i">{{ i }}</p>
        </div>
        <ol v-if="chosen">
          <RankedMethod v-for="(m, i) in fits" :key="m.key" :method="m" :rank="i + 1" :busy="busy" @make="make(m)" />
        </ol>
        <FoldBox v-if="rest.length" :name="`${rest.length} that do not fit, and why`">
          <ul>
            <li v-for="m in rest" :key="m.key">
              <b>{{ m.name }}</b> <span class="quiet">{{ m.against.join(' ') }}</span>
            </li>
          </ul>
        </FoldBox>
      </section></InTurn
    >
  </div>
</template>

<style scoped>
.chooser {
  display: grid;
  grid-template-columns: 340px minmax(0, 1fr);
  gap: 36px;
  margin-top: 10px;
}
.wish {
  display: grid;
  gap: 10px;
  align-content: start;
}
.wish h2 {
  margin-top: 8px;
}
.top {
  display: grid;
  grid-template-columns: 92px 1fr;
  gap: 16px;
  align-items: center;
}
section {
  min-width: 0;
}
.note {
  margin: 8px 0;
}
@media (max-width: 900px) {
  .chooser {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
