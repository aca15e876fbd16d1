<script setup lang="ts">
import type { Clash } from './draft'

// What somebody else changed meanwhile in fields that you changed too.
defineProps<{ clashes: Clash[]; names: Record<string, string>; show?: (field: string, value: unknown) => string }>()
const emit = defineEmits<{ mine: [field: string]; theirs: [field: string] }>()
const plain = (_: string, value: unknown) => (value === '' || value === undefined ? 'nothing' : String(value))
</script>

<template>
  <section v-if="clashes.length" class="note clash" role="alert" aria-label="Changed by someone since">
    <p><b>Changed by someone since you began.</b> Yours stands in the form and is what Save keeps.</p>
    <div v-for="c in clashes" :key="c.field" class="one">
      <p class="field">{{ names[c.field] ?? c.field }}</p>
      <p>
        yours: <b>{{ (show ?? plain)(c.field, c.yours) }}</b>
      </p>
      <p>
        theirs: <b>{{ (show ?? plain)(c.field, c.theirs) }}</b>
      </p>
      <p class="choice">
        <button class="side" type="button" @click="emit('mine', c.field)">
          Keep yours<span class="spoken">: {{ names[c.field] ?? c.field }}</span>
        </button>
        <button class="side" type="button" @click="emit('theirs', c.field)">
          Take theirs<span class="spoken">: {{ names[c.field] ?? c.field }}</span>
        </button>
      </p>
    </div>
  </section>
</template>

<style scoped>
.clash {
  display: grid;
  gap: 10px;
}
.one {
  display: grid;
  gap: 4px;
  padding-top: 8px;
  border-top: 1px solid var(--straw);
  overflow-wrap: anywhere;
}
.field {
  font-weight: 650;
}
.choice {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
