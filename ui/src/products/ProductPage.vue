<script setup lang="ts">
import InTurn from '../shared/InTurn.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import { figure } from '../shared/habit'
import { duration } from '../shared/reading'
import { computed, ref, watch } from 'vue'
import { onBeforeRouteLeave, useRoute } from 'vue-router'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { amount, amountIfAny } from '../shared/money'
import { say } from '../shared/toast'
import { useTray } from '../shared/tray'
import { usePanel } from '../shared/usePanel'
import { useRoom } from '../workshop/useRoom'
import BlockPicker from './BlockPicker.vue'
import ChoicesPanel from './ChoicesPanel.vue'
import CostCurve from './CostCurve.vue'
import CostTable from '../selling/CostTable.vue'
import FactsForm from './FactsForm.vue'
import FindingList from './FindingList.vue'
import LabelPanel from './LabelPanel.vue'
import LearntPanel from './LearntPanel.vue'
import NameForm from './NameForm.vue'
import ProductPicture from './ProductPicture.vue'
import RecipeStrip from './RecipeStrip.vue'
import StepPanel from './StepPanel.vue'
import VersionsPanel from './VersionsPanel.vue'
import { useRecipe, type Step } from './useRecipe'
import ThingTrail from '../trail/ThingTrail.vue'

// A product in one picture: its recipe to scale, what is about to go wrong, what it takes and earns.
const route = useRoute()
const { open } = useTray()
const id = computed(() => Number(route.params.id))
const { data: product, error } = useAnswer('/api/products/{id}', () => ({ path: { id: id.value } }))
const { room } = useRoom()
// What the room's air does to the rests; the strip shows them as the label has them.
const air = computed(() => {
  const r = room.value
  if (r?.celsius === undefined || r.humidity === undefined) return ''
  const slower = [
    { what: 'drying', factor: r.drySlower },
    { what: 'curing', factor: r.cureSlower },
  ].filter((s) => s.factor >= 1.15)
  if (slower.length === 0) return ''
  const said = slower.map((s) => `${s.what} takes ${figure(s.factor, 1)} times as long`).join(', ')
  return `In this room now (${figure(r.celsius, 0)} °C, ${Math.round(r.humidity * 100)} %) ${said}: allow for it.`
})
const recipe = useRecipe(() => product.value)
const { steps, selected, index, draft, dirty, fields, refusal, basedOn, overtaken, past, future } = recipe
const { act, busy, trouble, fault } = useAct()

const { panel, toggle, shut } = usePanel<'name' | 'facts' | 'choices' | 'versions'>()
const adding = ref(false)
watch(id, () => {
  shut()
  adding.value = false
  selected.value = ''
  recipe.reset()
})

const step = computed(() => steps.value[index.value])
// The step whose rest this one could be done in: the one before it that is not inside a rest itself.
const host = computed(() => {
  for (let i = index.value - 1; i >= 0; i--) {
    const s = steps.value[i]!
    if (s.inside) continue
    return s.rest && (s.rest.ceiling === undefined || s.rest.ceiling > 30) ? s : undefined
  }
  return undefined
})
const editStep = (edit: (s: Step) => void) => recipe.change((f) => edit(f.steps[index.value]!))
const indexOf = (stepId: string) => steps.value.findIndex((s) => s.id === stepId)
// edit changes the steps as a whole; a step that comes in is opened.
async function edit(made: Schemas['Edit']) {
  const known = new Set(steps.value.map((s) => s.id))
  try {
    const after = await recipe.edit((form) =>
      answerOf(
        api.POST('/api/products/{id}/recipe/edit', {
          params: { path: { id: id.value } },
          body: { ...form, edit: made },
        }),
      ),
    )
    const added = after?.steps.find((s) => !known.has(s.id))
    if (added) selected.value = added.id
    return after !== undefined
  } catch (failed) {
    say({ text: (failed as Error).message })
    return false
  }
}
const move = (step: string, by: 1 | -1) => edit({ step, move: by })
async function remove(step: string) {
  const at = indexOf(step)
  if (!(await edit({ step, drop: true })) || !selected.value) return
  selected.value = steps.value[Math.min(at, steps.value.length - 1)]?.id ?? ''
}
async function add(block: Step) {
  if (await edit({ add: block.id, step: step.value?.id })) adding.value = false
}
function take(proposed: Schemas['RecipeForm']) {
  recipe.change((f) =>
    Object.assign(f, { look: proposed.look, sheen: proposed.sheen, choices: proposed.choices, steps: proposed.steps }),
  )
  shut('choices')
}
const learn = (lessons: Schemas['LearntStep'][]) =>
  recipe.change((f) => {
    for (const l of lessons) {
      const s = f.steps.find((s) => s.id === l.stepId)
      if (s && l.realMinutesPerPiece !== undefined) s.minutesPerPiece = l.realMinutesPerPiece
      if (s && l.realYield !== undefined) s.yield = l.realYield
    }
  })
async function save(version: number) {
  const form = recipe.form.value
  if (!form) return
  const saved = await act(() =>
    answerOf(api.PUT('/api/products/{id}/recipe', { params: { path: { id: id.value } }, body: { ...form, version } })),
  )
  if (!saved) return
  recipe.reset()
  say({ text: `Saved as recipe ${saved.recipeNumber}. Batches under way keep theirs.` })
}
// A field the server names belongs to a step: open it.
watch(fields, (all) => {
  const at = /^steps\[(\d+)\]/.exec(Object.keys(all)[0] ?? '')
  const named = at ? steps.value[Number(at[1])] : undefined
  if (named) selected.value = named.id
})
onBeforeRouteLeave(() => !dirty.value || window.confirm('The recipe has changes that are not saved. Leave them?'))
</script>

<template>
  <template v-if="error && !product">
    <h1>No product here</h1>
    <EmptyNote>{{ error.message }} <RouterLink to="/products">All products</RouterLink></EmptyNote>
  </template>
  <template v-else-if="product && draft">
    <header class="head">
      <ProductPicture
        :name="product.name"
        :blank="product.blank"
        :picture="product.picture"
        :artwork="product.artwork"
        :opaque="product.opaque"
        :own-pictures="product.ownPictures"
      />
      <div>
        <p class="quiet">{{ product.describe }}</p>
        <h1>{{ product.name }}</h1>
        <p class="quiet">
          Recipe {{ product.recipeNumber }}<template v-if="dirty">, changed</template> · the print must
          {{ product.mirror === 'mirrored' ? 'be mirrored' : 'not be mirrored'
          }}<template v-if="product.lettered"> · lettering on each piece</template>
        </p>
      </div>
      <dl>
        <div>
          <dd>{{ amount(draft.cost) }}</dd>
          <dt>costs, in twelves</dt>
        </div>
        <div>
          <dd>{{ amount(product.price) }}</dd>
          <dt>sells at</dt>
        </div>
        <div>
          <dd>{{ amountIfAny(draft.earnedPerHour) }}</dd>
          <dt>an hour earns</dt>
        </div>
        <div>
          <dd>{{ duration(draft.layToHandOverMinutes) }}</dd>
          <dt>lay to hand-over</dt>
        </div>
      </dl>
    </header>
    <div class="bar">
      <button class="word" type="button" :aria-expanded="panel === 'facts'" @click="toggle('facts')">
        Blank and picture
      </button>
      <RouterLink class="word" :to="`/prints/design/${product.id}`">How it is printed</RouterLink>
      <button class="word" type="button" :aria-expanded="panel === 'choices'" @click="toggle('choices')">
        How we do it
      </button>
      <button class="word" type="button" :aria-expanded="panel === 'name'" @click="toggle('name')">
        Change name or price
      </button>
      <button class="word" type="button" :aria-expanded="panel === 'versions'" @click="toggle('versions')">
        Versions and copies
      </button>
      <RouterLink class="word" :to="`/notebook?product=${product.id}`">Something went wrong?</RouterLink>
      <span class="edit">
        <button class="side" type="button" :disabled="past.length === 0" @click="recipe.undo">Undo</button>
        <button class="side" type="button" :disabled="future.length === 0" @click="recipe.redo">Redo</button>
        <button class="side" type="button" :aria-expanded="adding" @click="adding = !adding">Add a step</button>
        <button v-if="dirty" class="act" type="button" :disabled="busy || refusal !== ''" @click="save(basedOn)">
          {{ busy ? 'Saving' : 'Save the recipe' }}
        </button>
        <button v-else class="act" type="button" @click="open('new-batch', product.id)">Make up a batch</button>
      </span>
    </div>
    <FactsForm v-if="panel === 'facts'" :key="`${product.id}`" :product="product" @saved="shut('facts')" />
    <ChoicesPanel
      v-if="panel === 'choices'"
      :product-id="product.id"
      :look="draft.look"
      :sheen="draft.sheen"
      :choices="draft.choices"
      :schools="product.schools"
      @proposed="take"
    />
    <NameForm v-if="panel === 'name'" :product="product" @saved="shut('name')" />
    <VersionsPanel v-if="panel === 'versions'" :product="product" :dirty="dirty" />
    <p v-if="refusal" class="note brick" role="alert">{{ refusal }} Nothing is saved yet.</p>
    <section v-if="overtaken" class="note brick" role="alert" aria-label="Changed by someone since">
      <p><b>This recipe was changed by someone since you began.</b></p>
      <p>yours: {{ overtaken.yours.join(', ') || 'choices only' }}</p>
      <p>theirs: {{ overtaken.theirs.join(', ') || 'choices only' }}</p>
      <p>
        <button class="side" type="button" :disabled="busy" @click="save(product.version)">
          Save yours over theirs</button
        >&nbsp;
        <button class="side" type="button" @click="recipe.reset">Take theirs</button>
      </p>
    </section>
    <p v-else-if="trouble && dirty" class="note brick" role="alert">{{ trouble.message }} {{ fault('steps') }}</p>
    <InTurn
      ><RecipeStrip
        :steps="steps"
        :findings="draft.findings"
        :hand-in-hand="draft.handInHand"
        :selected="selected"
        @select="selected = selected === $event ? '' : $event"
        @move="move"
        @remove="remove"
      />
      <p v-if="air" class="quiet air">{{ air }}</p></InTurn
    >
    <BlockPicker v-if="adding" :product-id="product.id" :after="step?.name ?? ''" @pick="add" @close="adding = false" />
    <StepPanel
      v-if="step"
      :key="step.id"
      :step="step"
      :index="index"
      :host="host"
      :last="index === steps.length - 1"
      :fields="fields"
      :cautions="draft.stepCautions[index] ?? []"
      :may="draft.stepOutcomes[index] ?? []"
      @change="editStep"
      @move="move(step.id, $event)"
      @remove="remove(step.id)"
      @add="adding = true"
      @close="selected = ''"
    />
    <InTurn
      ><div class="three">
        <CostTable :product-id="product.id" :lines="draft.lines" :cost="draft.cost" />
        <FindingList
          :product-id="product.id"
          :findings="draft.findings"
          :dirty="dirty"
          @step="selected = $event"
          @facts="panel = 'facts'"
        />
        <section>
          <h2>A bigger lot saves</h2>
          <CostCurve :curve="draft.curve" :at="12" />
        </section>
      </div> </InTurn
    ><InTurn
      ><LabelPanel :key="product.id" :product-id="product.id" :dirty="dirty" @take="take" />
      <LearntPanel :product-id="product.id" :cost="draft.cost" @take="learn" />
      <ThingTrail :id="product.id" about="products"
    /></InTurn>
  </template>
</template>

<style scoped>
.head {
  display: grid;
  grid-template-columns: 112px 1fr auto;
  gap: 18px;
  align-items: center;
  margin-bottom: 6px;
}
.head h1 {
  font-size: 28px;
}
dl {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 30px;
  margin: 0;
}
dl dd {
  margin: 0;
  font: 650 25px/1.2 var(--heading);
}
dt {
  color: var(--soft);
  font-size: 14px;
}
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 20px;
  align-items: center;
  margin-bottom: 10px;
}
.bar .word {
  color: inherit;
}
.bar .word[aria-expanded='true'] {
  font-weight: 650;
}
.edit {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-left: auto;
}
.edit button {
  min-height: 36px;
  padding: 0 12px;
}
.note {
  margin-bottom: 10px;
}
.air {
  margin: 6px 0 0;
}
.three {
  display: grid;
  grid-template-columns: minmax(0, 1.1fr) minmax(0, 1.1fr) minmax(0, 0.9fr);
  gap: 24px;
  margin-top: 16px;
}
.three > section {
  display: grid;
  gap: 10px;
  align-content: start;
}
@media (max-width: 1000px) {
  .three,
  .head {
    grid-template-columns: minmax(0, 1fr);
  }
  /* what is about to go wrong comes before what it costs */
  .three > :nth-child(2) {
    order: -1;
  }
}
@media (max-width: 640px) {
  .edit {
    margin-left: 0;
  }
  .edit button {
    min-height: 48px;
  }
}
</style>
