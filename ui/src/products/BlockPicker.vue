<script setup lang="ts">
import TextField from '../shared/TextField.vue'
import { computed, ref } from 'vue'
import { useAnswer } from '../api/answers'
import { stages } from '../shared/words'
import type { Step } from './useRecipe'

// The building blocks of recipes, by stage of the work, found by typing.
const props = defineProps<{ productId: number; after: string }>()
const emit = defineEmits<{ pick: [step: Step]; close: [] }>()
const { data: blocks } = useAnswer('/api/products/{id}/blocks', () => ({ path: { id: props.productId } }))
const text = ref('')
const groups = computed(() =>
  Object.entries(stages)
    .map(([stage, name]) => ({
      name,
      blocks: (blocks.value ?? []).filter(
        (b) => b.stage === stage && b.step.name.toLowerCase().includes(text.value.trim().toLowerCase()),
      ),
    }))
    .filter((g) => g.blocks.length > 0),
)
</script>

<template>
  <section class="picker" aria-label="Add a step">
    <div class="head">
      <h2>Add a step {{ after ? `after “${after}”` : '' }}</h2>
      <TextField v-model="text" bare label="Find a step" placeholder="Find a step" maxlength="60" />
      <button class="word" type="button" @click="emit('close')">Close</button>
    </div>
    <div class="groups">
      <div v-for="g in groups" :key="g.name">
        <h3>{{ g.name }}</h3>
        <button v-for="b in g.blocks" :key="b.step.id" type="button" class="chip" @click="emit('pick', b.step)">
          {{ b.step.name }}
        </button>
      </div>
      <p v-if="blocks && groups.length === 0" class="quiet">No step of that name.</p>
    </div>
  </section>
</template>

<style scoped>
.picker {
  padding: 12px 16px 16px;
  background: var(--sheet);
  border: 1px solid var(--line);
  border-top: 3px solid var(--night);
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  margin-bottom: 10px;
}
.head .pick {
  width: 220px;
}
.head .word {
  margin-left: auto;
}
.groups {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(190px, 1fr));
  gap: 12px 20px;
  align-items: start;
}
h3 {
  margin-bottom: 4px;
  color: var(--soft);
  font-size: 14px;
}
.chip {
  display: block;
  width: 100%;
  min-height: 32px;
  padding: 2px 8px;
  border: 0;
  border-left: 3px solid var(--clay);
  background: none;
  text-align: left;
  cursor: pointer;
}
.chip + .chip {
  margin-top: 3px;
}
.chip:hover {
  background: var(--paper);
}
@media (max-width: 640px) {
  .chip {
    min-height: 48px;
  }
}
</style>
