<script setup lang="ts">
// The stores hold too little by their books for what a step took.
defineProps<{ why: string }>()
const emit = defineEmits<{ wait: []; accept: [] }>()
</script>

<template>
  <el-dialog :model-value="true" title="There was more than the stores know of?" width="460" @close="emit('wait')">
    <p>{{ why }}</p>
    <p class="quiet">
      If it was done with what was there, the stores are put right: what they lacked is entered as found at a count, and
      nothing of it is left.
    </p>
    <template #footer>
      <div class="acts">
        <button class="side" type="button" @click="emit('wait')">Look first</button>
        <button class="act" type="button" @click="emit('accept')">It was there: put it right</button>
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
