<script setup lang="ts">
import type { UploadFile, UploadInstance } from 'element-plus'
import { onMounted, ref } from 'vue'

// A button that asks for files, or, with camera, for a photo where the device can take
// one; each is handed on, and nothing is kept of it here.
const props = defineProps<{ label: string; accept: string; camera?: boolean; quiet?: boolean }>()
const emit = defineEmits<{ file: [file: File] }>()
const box = ref<UploadInstance | null>(null)
const button = ref<HTMLElement | null>(null)

// The library leaves what is pressed without a role and a name, and knows no camera.
onMounted(() => {
  const pressed = button.value?.querySelector('.el-upload')
  pressed?.setAttribute('role', 'button')
  pressed?.setAttribute('aria-label', props.label)
  if (props.camera) pressed?.querySelector('input')?.setAttribute('capture', 'environment')
})

function take(chosen: UploadFile) {
  box.value?.clearFiles()
  if (chosen.raw) emit('file', chosen.raw)
}
</script>

<template>
  <span ref="button">
    <el-upload
      ref="box"
      :multiple="!camera"
      :auto-upload="false"
      :show-file-list="false"
      :accept="accept"
      :on-change="take"
    >
      <span :class="quiet ? 'word' : 'act'">{{ label }}</span>
    </el-upload>
  </span>
</template>

<style scoped>
.act {
  display: inline-flex;
  align-items: center;
}
</style>
