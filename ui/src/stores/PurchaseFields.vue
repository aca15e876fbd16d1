<script setup lang="ts">
import { computed, ref } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { unit } from '../shared/money'
import TextField from '../shared/TextField.vue'
import TickBox from '../shared/TickBox.vue'
import { materialBody, newMaterial } from './materialForm'
import { kinds, units, type Kind } from './words'
import { countIn } from '../shared/reading'
import PickField from '../shared/PickField.vue'
import { choicesOf } from '../shared/choices'

// One line of a receipt. Blanks are looked over as they come, and natural ones sorted into their size classes.
const props = defineProps<{
  number: number
  names: Schemas['MaterialName'][]
  material: Schemas['MaterialName'] | undefined
  fault: (field: string) => string
  removable: boolean
}>()
const emit = defineEmits<{ remove: [] }>()
const line = defineModel<Schemas['NewPurchase']>({ required: true })

// A material can be made while its first purchase is entered; what else is known of it is said later.
const maker = useAct()
const making = ref(false)
const fresh = ref(newMaterial())
async function add() {
  const added = await maker.act(() =>
    answerOf(api.POST('/api/materials', { body: { ...materialBody(fresh.value).body, unitCost: '0' } })),
  )
  if (!added) return
  line.value.materialId = added.id
  making.value = false
  fresh.value = newMaterial()
}

const examples: Record<string, string> = {
  ml: '2 × 473 ml, 16 fl oz, 1 l',
  g: '250 g, 1 lb',
  m: 'roll of 20 m',
  piece: '50, box of 12, dozen',
  sheet: 'A4 ream, 25 sheets',
  page: 'cartridge of 1500 pages',
  kWh: '1 kWh',
}
const groups = computed(() =>
  (Object.keys(kinds) as Kind[])
    .map((kind) => ({ name: kinds[kind], materials: props.names.filter((n) => n.kind === kind) }))
    .filter((g) => g.materials.length),
)
const isBlank = computed(() => props.material?.kind === 'blank')
const classes = computed(() => (props.material?.sort ? props.names.filter((n) => n.sort === props.material!.sort) : []))
const piecesOf = (id: number) => line.value.sorted?.find((s) => s.materialId === id)?.pieces || ''
function sortInto(id: number, text: unknown) {
  const pieces = countIn(text)
  const others = (line.value.sorted ?? []).filter((s) => s.materialId !== id)
  line.value.sorted = pieces ? [...others, { materialId: id, pieces }] : others
}
const sortedFault = computed(
  () => props.fault('sorted') || [0, 1, 2, 3].map((k) => props.fault(`sorted[${k}].pieces`)).find(Boolean) || '',
)
</script>

<template>
  <fieldset>
    <legend>Line {{ number }}</legend>
    <PickField
      v-model="line.materialId"
      label="Material"
      :fault="fault('materialId')"
      :choices="
        names.length
          ? groups.flatMap((g) => g.materials.map((n) => ({ value: n.id, name: n.name, group: g.name })))
          : undefined
      "
    />
    <div class="three">
      <TextField v-model="line.packs" label="Packs" :fault="fault('packs')" inputmode="numeric" maxlength="5" />
      <TextField
        v-model="line.pack"
        label="Of"
        :fault="fault('pack')"
        :placeholder="examples[material?.unit ?? '']"
        maxlength="60"
      />
      <TextField
        v-model="line.price"
        :label="line.priceEach ? `Each for, ${unit()}` : `All for, ${unit()}`"
        :fault="fault('price')"
        inputmode="decimal"
        maxlength="12"
      />
    </div>
    <p class="ways">
      <TickBox v-model="line.priceEach">The price is of each pack</TickBox>
      <button class="word" type="button" :aria-expanded="making" @click="making = !making">
        A material that is not here yet
      </button>
    </p>
    <div v-if="making" class="three">
      <TextField v-model="fresh.name" label="Its name" :fault="maker.fault('name')" maxlength="80" />
      <PickField v-model="fresh.kind" label="It is a" :fault="maker.fault('kind')" :choices="choicesOf(kinds)" />
      <PickField
        v-model="fresh.unit"
        label="Counted in"
        :fault="maker.fault('unit')"
        :choices="units.map((u) => ({ value: u, name: u }))"
      />
      <button class="side" type="button" :disabled="maker.busy.value" @click="add">Add it</button>
      <p v-if="maker.trouble.value" class="bad" role="alert">{{ maker.trouble.value.message }}</p>
    </div>
    <template v-if="isBlank">
      <TextField
        v-model="line.rejects"
        label="No good on arrival"
        :fault="fault('rejects')"
        hint="Look them over now; it is kept against the supplier."
        inputmode="numeric"
        maxlength="6"
      />
      <template v-if="classes.length > 1">
        <p class="quiet">Sorted into classes (leave empty when they came in one):</p>
        <div class="three">
          <TextField
            v-for="c in classes"
            :key="c.id"
            lazy
            :label="c.name"
            inputmode="numeric"
            maxlength="6"
            :model-value="piecesOf(c.id)"
            @update:model-value="sortInto(c.id, $event)"
          />
        </div>
        <p v-if="sortedFault" class="bad" role="alert">{{ sortedFault }}</p>
      </template>
    </template>
    <button v-if="removable" class="word" type="button" @click="emit('remove')">
      Out<span class="spoken">: line {{ number }}</span>
    </button>
  </fieldset>
</template>

<style scoped>
fieldset {
  display: grid;
  gap: 8px;
  padding: 10px 12px;
  border: 1px solid var(--line);
}
legend {
  padding: 0 4px;
}
.three {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(84px, 1fr));
  gap: 8px;
  align-items: start;
}
.word {
  justify-self: start;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: center;
}
</style>
