<script setup lang="ts">
import { ref } from 'vue'
import FilesButton from '../shared/FilesButton.vue'
import TextField from '../shared/TextField.vue'

// An outline of one's own: the one path of an SVG file, or its data typed in.
defineProps<{ fault?: string }>()
const path = defineModel<string | undefined>()
const said = ref('')

async function take(file: File) {
  said.value = ''
  const found = file.size > 2_000_000 ? [] : pathsIn(await file.text())
  if (found.length === 1) path.value = found[0]
  else
    said.value = found.length
      ? `“${file.name}” has ${found.length} paths: join them to one outline.`
      : `“${file.name}” has no path in it.`
}
// The file is read as text alone; nothing of it is shown or run.
function pathsIn(text: string): string[] {
  const svg = new DOMParser().parseFromString(text, 'image/svg+xml')
  return [...svg.querySelectorAll('path')].map((p) => p.getAttribute('d') ?? '').filter(Boolean)
}
</script>

<template>
  <div class="outline">
    <TextField
      v-model="path"
      label="Its outline"
      :rows="2"
      maxlength="20000"
      :fault="fault || said"
      hint="The path data of an SVG: one closed outline. It is stretched to the width and height."
    />
    <FilesButton label="Take it from an SVG" accept=".svg,image/svg+xml" quiet @file="take" />
  </div>
</template>

<style scoped>
.outline {
  grid-column: 1 / -1;
}
</style>
