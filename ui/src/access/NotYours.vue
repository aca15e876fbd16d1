<script setup lang="ts">
import EmptyNote from '../shared/EmptyNote.vue'
</script>

<template>
  <h1>Not for the bench</h1>
  <EmptyNote>
    This page is for those who run the studio. <RouterLink to="/">What is to be done now</RouterLink> is on Today.
  </EmptyNote>
</template>
