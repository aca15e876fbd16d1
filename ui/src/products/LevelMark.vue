<script setup lang="ts">
// The mark of a finding's level: told by shape and letter, not by colour alone.
defineProps<{ level: string }>()
const words: Record<string, string> = { stop: 'Stop', caution: 'Caution', tip: 'Tip' }
</script>

<template>
  <svg viewBox="0 0 18 18" width="18" height="18" role="img" :aria-label="words[level]">
    <template v-if="level === 'stop'">
      <path d="M9 1l8 8-8 8-8-8z" fill="#8e2323" />
      <path d="M6 6l6 6M12 6l-6 6" stroke="#fff" stroke-width="1.8" />
    </template>
    <template v-else-if="level === 'caution'">
      <path d="M3 1h12v9l-6 7-6-7z" fill="#fbf0d5" stroke="#8a5a12" stroke-width="1.5" />
      <path d="M9 4v5" stroke="#8a5a12" stroke-width="2" />
      <circle cx="9" cy="11.6" r="1.1" fill="#8a5a12" />
    </template>
    <template v-else>
      <circle cx="9" cy="9" r="7.2" fill="#e3ece8" stroke="#2f6f6a" stroke-width="1.5" />
      <path d="M9 8v5" stroke="#2f6f6a" stroke-width="2" />
      <circle cx="9" cy="5.4" r="1.1" fill="#2f6f6a" />
    </template>
  </svg>
</template>

<style scoped>
svg {
  flex: none;
}
</style>
