<script setup lang="ts">
import { computed } from 'vue'
import { useAnswer } from '../api/answers'
import ActRow from './ActRow.vue'
import { say } from './toast'

// An address that opens one thing to whoever knows it: to be copied, and to be renewed,
// after which the one before opens nothing.
const props = defineProps<{ path: string; busy: boolean; what: string }>()
const emit = defineEmits<{ renew: []; close: [] }>()
const { data: house } = useAnswer('/api/house')
const whole = computed(() => (house.value?.address || location.origin) + props.path)
async function copy() {
  try {
    await navigator.clipboard.writeText(whole.value)
    say({ text: 'Copied.' })
  } catch {
    say({ text: 'This browser does not let it be copied: mark it and copy it yourself.', bad: true })
  }
}
</script>

<template>
  <div class="secret">
    <template v-if="path">
      <p class="where">{{ whole }}</p>
      <p v-if="house && !house.address" class="quiet">
        Only this computer reaches it as long as the studio is not reached in the house.
      </p>
      <ActRow>
        <button class="side" type="button" @click="copy">Copy the address</button>
        <button class="word" type="button" :disabled="busy" @click="emit('renew')">Another address</button>
        <slot />
      </ActRow>
    </template>
    <button v-else class="side" type="button" :disabled="busy" @click="emit('renew')">{{ what }}</button>
  </div>
</template>

<style scoped>
.secret {
  display: grid;
  gap: 8px;
  justify-items: start;
}
.where {
  padding: 8px 12px;
  border: 1px solid var(--line);
  background: var(--sheet);
  overflow-wrap: anywhere;
}
</style>
