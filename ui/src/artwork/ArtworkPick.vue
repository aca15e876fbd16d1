<script setup lang="ts">
import { computed } from 'vue'
import { useAnswer } from '../api/answers'
import PickField from '../shared/PickField.vue'
import { fileAt, sharpTo } from './said'

// Which of the pictures goes on it. With one, what its pixels say is not typed.
const picked = defineModel<number | undefined>()
defineProps<{ fault?: string }>()
const { data: artworks } = useAnswer('/api/artworks')
const ready = computed(() => artworks.value?.filter((a) => a.state === 'ready') ?? [])
const artwork = computed(() => ready.value.find((a) => a.id === picked.value))
</script>

<template>
  <div class="pick">
    <img v-if="artwork" :src="fileAt(artwork.thumb)" alt="" />
    <PickField
      v-model="picked"
      label="Picture"
      :fault="fault"
      :hint="
        artwork
          ? `It is ${sharpTo(artwork)}. Its ink, its sharpness and who may use it are its own.`
          : 'Put pictures in under Prints; what is said below is for a picture that is not here.'
      "
      :choices="[
        { value: undefined, name: 'none of those here' },
        ...ready.map((a) => ({ value: a.id, name: a.title })),
      ]"
    />
  </div>
</template>

<style scoped>
.pick {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 14px;
  align-items: start;
}
.pick > :last-child {
  grid-column: -2 / -1;
}
.pick > :only-child {
  grid-column: 1 / -1;
}
img {
  width: 76px;
  height: 76px;
  object-fit: contain;
  border: 1px solid var(--line);
  background: var(--sheet);
}
</style>
