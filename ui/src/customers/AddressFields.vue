<script setup lang="ts">
import TextField from '../shared/TextField.vue'

// Where parcels and letters go, each as it stands on a label.
interface Address {
  called: string
  lines: string
}
defineProps<{ fault: (field: string) => string }>()
const addresses = defineModel<Address[]>({ required: true })
const most = 20
const add = () => (addresses.value = [...addresses.value, { called: '', lines: '' }])
const drop = (i: number) => (addresses.value = addresses.value.filter((_, k) => k !== i))
</script>

<template>
  <fieldset v-for="(a, i) in addresses" :key="i" class="address">
    <legend>Address{{ addresses.length > 1 ? ` ${i + 1}` : '' }}</legend>
    <TextField
      v-model="a.called"
      label="Called"
      hint="such as home, or invoices"
      :fault="fault(`addresses[${i}].called`)"
      maxlength="60"
    />
    <TextField
      v-model="a.lines"
      label="As it stands on a label"
      :rows="3"
      :fault="fault(`addresses[${i}].lines`)"
      maxlength="400"
    />
    <button class="word" type="button" @click="drop(i)">Take it out</button>
  </fieldset>
  <p v-if="fault('addresses')" class="bad" role="alert">{{ fault('addresses') }}</p>
  <button v-if="addresses.length < most" class="word more" type="button" @click="add">
    {{ addresses.length ? 'Another address' : 'An address' }}
  </button>
</template>

<style scoped>
.address {
  display: grid;
  gap: 8px;
}
.word,
.more {
  justify-self: start;
  align-self: start;
}
</style>
