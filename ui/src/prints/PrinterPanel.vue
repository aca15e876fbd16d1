<script setup lang="ts">
import { computed, ref } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { figure } from '../shared/habit'
import { runs } from '../shared/settings'
import PickField from '../shared/PickField.vue'

// The printer that stands in for a real one: what is in it, and what it can be told to do
// wrong, to see what comes of it.
const { data: printer } = useAnswer('/api/printer', undefined, { again: () => 3000 })
const { tell, busy } = useAct()
const open = ref(false)

async function set(change: Partial<Schemas['PrinterChange']>) {
  const { paper, toner, jammed, scale } = printer.value!
  await tell(() => answerOf(api.PUT('/api/printer', { body: { paper, toner, jammed, scale, ...change } })))
}
const scale = computed({
  get: () => printer.value?.scale ?? 100,
  set: (scale) => void set({ scale }),
})
</script>

<template>
  <div v-if="printer?.simulated" class="printer">
    <p>
      <b>Printer <i>simulated</i></b>
      {{ printer.paper }} sheets, toner {{ figure(printer.toner * 100, 0) }} %<template v-if="printer.scale !== 100"
        >, prints at {{ figure(printer.scale) }} %</template
      ><span v-if="printer.says" class="bad" role="status"> {{ printer.says }}</span>
      <button v-if="runs" class="word own" type="button" :aria-expanded="open" @click="open = !open">Its tray</button>
    </p>
    <p v-if="open" class="acts">
      <button class="side" type="button" :disabled="busy" @click="set({ paper: 250 })">Fill the tray</button>
      <button class="side" type="button" :disabled="busy" @click="set({ paper: 0 })">Empty it</button>
      <button class="side" type="button" :disabled="busy" @click="set({ toner: 1 })">New cartridge</button>
      <button class="side" type="button" :disabled="busy" @click="set({ jammed: !printer.jammed })">
        {{ printer.jammed ? 'Clear the jam' : 'Let it jam' }}
      </button>
      <PickField
        v-model="scale"
        label="It prints at"
        bare
        :choices="[
          { value: 100, name: 'its true size' },
          { value: 98, name: '98 %, fitted to the page' },
        ]"
      />
      <span class="quiet">Printing for real is taking the PDF to your printer.</span>
    </p>
  </div>
</template>

<style scoped>
.printer {
  padding: 6px 0 10px;
  border-bottom: 1px solid var(--line);
}
.printer i {
  font-size: 13px;
  font-weight: 400;
}
.own {
  margin-left: 12px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
  margin-top: 8px;
}
.bad {
  color: var(--brick);
  font-weight: 600;
}
</style>
