<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import FieldRow from '../shared/FieldRow.vue'
import { currency } from '../shared/money'

// A product begins from its blank; the recipe is proposed whole.
const router = useRouter()
const { act, busy, trouble, fault } = useAct()
const form = ref({
  name: '',
  shape: 'disc' as 'disc' | 'rectangle',
  width: '',
  height: '',
  thickness: '10 mm',
  painted: false,
  look: 'crisp' as 'crisp' | 'weathered',
  lettered: false,
  price: '',
})

async function make() {
  const made = await act(() => answerOf(api.POST('/api/products', { body: form.value })))
  if (made) await router.push(`/products/${made.id}`)
}
</script>

<template>
  <form class="new" novalidate @submit.prevent="make">
    <h1>New product</h1>
    <p class="quiet">
      A gel-medium lift on wood. Its recipe is proposed from the blank, with rests, checklists and materials.
    </p>
    <FieldRow v-slot="f" label="Name" :fault="fault('name')">
      <input
        :id="f.id"
        v-model="form.name"
        class="pick"
        maxlength="120"
        :aria-describedby="f.described"
        :aria-invalid="f.invalid"
      />
    </FieldRow>
    <FieldRow v-slot="f" label="Outline" :fault="fault('shape')">
      <select :id="f.id" v-model="form.shape" class="pick">
        <option value="disc">round</option>
        <option value="rectangle">rectangular</option>
      </select>
    </FieldRow>
    <div class="pair">
      <FieldRow
        v-slot="f"
        :label="form.shape === 'disc' ? 'Across' : 'Width'"
        :fault="fault('width')"
        hint="90 mm, 3 1/2 in"
      >
        <input
          :id="f.id"
          v-model="form.width"
          class="pick"
          maxlength="40"
          :aria-describedby="f.described"
          :aria-invalid="f.invalid"
        />
      </FieldRow>
      <FieldRow v-if="form.shape === 'rectangle'" v-slot="f" label="Height" :fault="fault('height')">
        <input
          :id="f.id"
          v-model="form.height"
          class="pick"
          maxlength="40"
          :aria-describedby="f.described"
          :aria-invalid="f.invalid"
        />
      </FieldRow>
      <FieldRow v-slot="f" label="Thickness" :fault="fault('thickness')">
        <input
          :id="f.id"
          v-model="form.thickness"
          class="pick"
          maxlength="40"
          :aria-describedby="f.described"
          :aria-invalid="f.invalid"
        />
      </FieldRow>
    </div>
    <FieldRow
      v-slot="f"
      label="Look"
      :fault="fault('look')"
      hint="Weathered accepts small lifts and haze; crisp does not."
    >
      <select :id="f.id" v-model="form.look" class="pick" :aria-describedby="f.described">
        <option value="crisp">crisp</option>
        <option value="weathered">weathered</option>
      </select>
    </FieldRow>
    <label class="tick"><input v-model="form.painted" type="checkbox" /> The wood is painted already</label>
    <label class="tick"><input v-model="form.lettered" type="checkbox" /> Each piece has its own lettering</label>
    <FieldRow
      v-slot="f"
      :label="`Price, ${currency}`"
      :fault="fault('price')"
      hint="Leave it empty for the price that keeps your margin."
    >
      <input
        :id="f.id"
        v-model="form.price"
        class="pick"
        inputmode="decimal"
        maxlength="12"
        :aria-describedby="f.described"
        :aria-invalid="f.invalid"
      />
    </FieldRow>
    <p v-if="trouble" class="note brick" role="alert">{{ trouble.message }}</p>
    <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'Propose its recipe' }}</button>
  </form>
</template>

<style scoped>
.new {
  display: grid;
  gap: 10px;
}
.pair {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(90px, 1fr));
  gap: 8px;
}
.tick {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 36px;
}
.tick input {
  width: 20px;
  height: 20px;
  accent-color: var(--glaze);
}
</style>
