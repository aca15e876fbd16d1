<script setup lang="ts">
import { duration } from './reading'
import type { Schemas } from '../api/client'

// Says which rests are cut under their usual length to be in time, and lets them be kept.
defineProps<{ rests: Schemas['ShortRest'][]; keeps: boolean; busy: boolean }>()
const emit = defineEmits<{ keep: [keep: boolean] }>()
</script>

<template>
  <div v-if="rests.length" class="note">
    <p>To be in time, or less late, it rests shorter than usual, never under the shortest safe rest:</p>
    <ul>
      <li v-for="r in rests" :key="r.after">
        after {{ r.after.toLowerCase() }} {{ duration(r.planned) }}
        <span class="quiet">instead of {{ duration(r.usual) }}</span>
      </li>
    </ul>
    <button class="word" type="button" :disabled="busy" @click="emit('keep', true)">Keep the usual rests</button>
  </div>
  <p v-else-if="keeps" class="quiet">
    It keeps its usual rests, even where that makes it late.
    <button class="word" type="button" :disabled="busy" @click="emit('keep', false)">Let them be cut</button>
  </p>
</template>
