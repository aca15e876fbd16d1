<script setup lang="ts">
import { defineAsyncComponent, ref, watch } from 'vue'
import { sections } from './router'
import DialogBox from '../shared/dialog'

const DeviceSettings = defineAsyncComponent(() => import('../shared/DeviceSettings.vue'))
const shown = defineModel<boolean>({ required: true })
const opened = ref(false)
watch(shown, (open) => (opened.value ||= open), { immediate: true })
const keys = [
  ['F', 'find'],
  ['N', 'new here: an order, a batch or a product'],
  ['Space', 'take up the most urgent step, or put down what is in hand'],
  ['D', 'done, with undo'],
  ['Arrows', 'move along the ribbon and the plan'],
  ['Enter', 'open what has the focus in the tray'],
  ['Esc', 'close the tray'],
  ['R', 'fold and unfold the day'],
  ['H', 'this list'],
]
</script>

<template>
  <DialogBox v-if="opened" v-model="shown" title="Keys" width="460">
    <dl>
      <template v-for="(s, i) in sections" :key="s.path">
        <dt>
          <kbd>{{ i + 1 }}</kbd>
        </dt>
        <dd>{{ s.name }}</dd>
      </template>
      <template v-for="[key, what] in keys" :key="key">
        <dt>
          <kbd>{{ key }}</kbd>
        </dt>
        <dd>{{ what }}</dd>
      </template>
    </dl>
    <DeviceSettings class="device" />
  </DialogBox>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 90px 1fr;
  gap: 6px 12px;
  margin: 0;
}
dd {
  margin: 0;
}
kbd {
  padding: 1px 7px;
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  font: 600 14px var(--text);
}
.device {
  margin-top: 12px;
}
</style>
