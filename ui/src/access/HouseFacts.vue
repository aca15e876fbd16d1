<script setup lang="ts">
import type { Schemas } from '../api/client'
import { dateOf, numbered } from '../shared/time'

// How other devices reach the studio, and how they tell that it is this one.
defineProps<{ house: Schemas['House'] }>()
</script>

<template>
  <section v-if="house.address" aria-labelledby="house">
    <h2 id="house">In the house</h2>
    <p>
      The studio is at <b>{{ house.address }}</b>
      <span v-if="house.addresses.length > 1" class="quiet">
        It answers to {{ house.addresses.filter((a) => a !== house.address).join(', ') }} as well.</span
      >
    </p>
    <template v-if="house.own">
      <p class="quiet">
        It shows a certificate of its own, renewed by itself; the present one is good until
        {{ numbered(dateOf(house.until!)) }}. A new device comes to trust it at {{ house.trustPage }}: scan this there,
        and hold the figures against these.
      </p>
      <div class="trust">
        <img :src="house.trustCode" width="132" height="132" :alt="`The code that leads to ${house.trustPage}`" />
        <code>{{ house.fingerprint }}</code>
      </div>
    </template>
    <p v-else class="quiet">
      It shows the certificate that you gave it, good until {{ numbered(dateOf(house.until!)) }}. Its fingerprint:
      <code>{{ house.fingerprint }}</code>
    </p>
  </section>
</template>

<style scoped>
.trust {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  align-items: start;
}
code {
  flex: 1 1 200px;
  overflow-wrap: anywhere;
}
</style>
