<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import { useAnswer } from '../api/answers'
import ActRow from '../shared/ActRow.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import { runs } from '../shared/settings'
import { useTray } from '../shared/tray'
import CustomerHad from './CustomerHad.vue'

// What is found out rarely comes when it is asked for.
const CustomerForm = defineAsyncComponent(() => import('./CustomerForm.vue'))
const SameCustomer = defineAsyncComponent(() => import('./SameCustomer.vue'))
const CustomerData = defineAsyncComponent(() => import('./CustomerData.vue'))

// A customer: how they are reached, where parcels go, what they like, what they had. id 0 is a new one.
const props = defineProps<{ id: number }>()
const { open } = useTray()
const changing = ref(false)
const { data: customer, error } = useAnswer('/api/customers/{id}', () => ({ path: { id: props.id } }), {
  enabled: () => props.id > 0,
})
const there = computed(() => !customer.value?.erasedAt && !customer.value?.mergedInto)
</script>

<template>
  <EmptyNote v-if="error">{{ error.message }}</EmptyNote>
  <CustomerForm v-else-if="id === 0" @kept="open('customer', $event)" />
  <CustomerForm v-else-if="customer && changing && there" :customer="customer" @kept="changing = false" />
  <div v-else-if="customer" class="customer">
    <h1>{{ customer.name }}</h1>
    <p v-if="customer.erasedAt" class="note glaze">
      The data of this customer was erased. What they had stays, under a number.
    </p>
    <p v-else-if="customer.mergedInto" class="note glaze">
      Merged into another customer.
      <button class="word" type="button" @click="open('customer', customer.mergedInto)">Look at the one</button>
    </p>
    <p v-for="other in customer.alike" :key="other.id" class="note straw">
      Perhaps the same as
      <button class="word" type="button" @click="open('customer', other.id)">{{ other.name }}</button>: they are reached
      in the same way.
    </p>
    <dl v-if="there">
      <template v-if="customer.phone">
        <dt>Telephone</dt>
        <dd>
          <a :href="`tel:${customer.phone.replaceAll(' ', '')}`">{{ customer.phone }}</a>
        </dd>
      </template>
      <template v-if="customer.email">
        <dt>E-mail</dt>
        <dd>
          <a :href="`mailto:${customer.email}`">{{ customer.email }}</a>
        </dd>
      </template>
      <template v-if="customer.otherWay">
        <dt>Or</dt>
        <dd>{{ customer.otherWay }}</dd>
      </template>
      <template v-if="customer.likes">
        <dt>Likes</dt>
        <dd>{{ customer.likes }}</dd>
      </template>
      <template v-for="a in customer.addresses" :key="a.id">
        <dt>{{ a.called || 'Address' }}</dt>
        <dd class="lines">{{ a.lines }}</dd>
      </template>
    </dl>
    <p v-if="there && !customer.phone && !customer.email && !customer.otherWay" class="quiet">
      No way to reach them is noted.
    </p>
    <p v-if="customer.note" class="lines">{{ customer.note }}</p>
    <ActRow v-if="there && runs">
      <button class="act" type="button" @click="open('new-order', undefined, { for: customer.name })">New order</button>
      <button class="side" type="button" @click="changing = true">Change</button>
    </ActRow>
    <CustomerHad :id="id" />
    <SameCustomer v-if="there && runs" :customer="customer" />
    <CustomerData v-if="there" :customer="customer" />
  </div>
</template>

<style scoped>
.customer {
  display: grid;
  gap: 10px;
}
dl {
  margin: 0;
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 6px 14px;
}
dt {
  color: var(--soft);
}
dd {
  overflow-wrap: anywhere;
}
.lines {
  white-space: pre-line;
  overflow-wrap: anywhere;
}
</style>
