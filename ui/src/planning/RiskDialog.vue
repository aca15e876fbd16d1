<script setup lang="ts">
defineProps<{ why: string; early: boolean }>()
const emit = defineEmits<{ wait: []; accept: [] }>()
</script>

<template>
  <el-dialog
    :model-value="true"
    :title="early ? 'The rest is not over' : 'Something speaks against it'"
    width="460"
    @close="emit('wait')"
  >
    <p>{{ why }}</p>
    <p class="quiet">If you begin now it is kept on the record, so that you can see later what it cost.</p>
    <template #footer>
      <div class="acts">
        <button class="side" type="button" @click="emit('accept')">I accept the risk</button>
        <button class="act" type="button" @click="emit('wait')">
          {{ early ? 'Let it rest' : 'Leave it for now' }}
        </button>
      </div>
    </template>
  </el-dialog>
</template>

<style scoped>
p + p {
  margin-top: 8px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  gap: 8px;
}
</style>
