<script setup lang="ts">
// Codes that are shown once. Each lets one in once when the password is forgotten.
defineProps<{ codes: string[] }>()
const emit = defineEmits<{ kept: [] }>()
const print = () => window.print()
</script>

<template>
  <section class="codes" aria-labelledby="codes">
    <h2 id="codes">Recovery codes: keep them on paper</h2>
    <p>Each lets you in once when the password is forgotten. They are not shown again.</p>
    <ul>
      <li v-for="c in codes" :key="c">
        <code>{{ c }}</code>
      </li>
    </ul>
    <div class="acts">
      <button class="act" type="button" @click="emit('kept')">I have kept them</button>
      <button class="side" type="button" @click="print">Print them</button>
    </div>
  </section>
</template>

<style scoped>
.codes {
  display: grid;
  gap: 10px;
  max-width: 460px;
}
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: 6px 18px;
  padding: 12px 16px;
  border: 1px solid var(--line);
  background: var(--sheet);
}
code {
  font-size: 16px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
}
</style>
