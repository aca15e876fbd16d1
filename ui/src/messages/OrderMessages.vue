<script setup lang="ts">
import { useAnswer } from '../api/answers'
import MessageList from './MessageList.vue'

const props = defineProps<{ id: number }>()
const { data: messages } = useAnswer('/api/orders/{id}/messages', () => ({
  path: { id: props.id },
  query: { origin: location.origin },
}))
</script>

<template>
  <MessageList v-if="messages" :messages="messages" :mail="`/api/orders/${id}/message.eml`" />
</template>
