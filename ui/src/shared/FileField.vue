<script setup lang="ts">
import type { UploadFile, UploadInstance } from 'element-plus'
import { onMounted, onUpdated, ref, useId } from 'vue'

// A file to choose or to drop; it is handed on and nothing is kept of it here, so
// that the same file, mended, can be chosen again.
const props = defineProps<{
  label: string
  accept: string
  fault?: string
  hint?: string
  disabled?: boolean
  progress?: { doing: string; share: number } | null
}>()
const emit = defineEmits<{ file: [file: File] }>()
const id = useId()
const box = ref<UploadInstance | null>(null)

// The library leaves what is pressed without a role and a name.
const field = ref<HTMLElement | null>(null)
function name() {
  const pressed = field.value?.querySelector('.el-upload')
  pressed?.setAttribute('role', 'button')
  pressed?.setAttribute('aria-label', props.label)
  if (props.fault || props.hint) pressed?.setAttribute('aria-describedby', `${id}-said`)
}
onMounted(name)
onUpdated(name)

function take(chosen: UploadFile) {
  box.value?.clearFiles()
  if (chosen.raw && !props.disabled) emit('file', chosen.raw)
}
</script>

<template>
  <div ref="field" class="file">
    <el-upload
      ref="box"
      drag
      :auto-upload="false"
      :show-file-list="false"
      :accept="accept"
      :disabled="disabled"
      :on-change="take"
    >
      <b>{{ label }}</b><span class="quiet">choose it, or drop it here</span>
    </el-upload>
    <p v-if="fault" :id="`${id}-said`" class="bad" role="alert">{{ fault }}</p>
    <p v-else-if="hint" :id="`${id}-said`" class="quiet">{{ hint }}</p>
    <div v-if="progress" role="status">
      <span>{{ progress.doing }}</span>
      <el-progress
        :percentage="Math.round(progress.share * 100)"
        :show-text="false"
        :stroke-width="8"
        aria-label="How far it is"
      />
    </div>
  </div>
</template>

<style scoped>
.file {
  display: grid;
  gap: 4px;
}
</style>
