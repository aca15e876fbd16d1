<script setup lang="ts">
import type { Schemas } from '../api/client'
import CostBar from './CostBar.vue'

defineProps<{ lines: Schemas['CostLine'][]; cost: string }>()
</script>

<template>
  <section aria-labelledby="costs">
    <h2 id="costs">What a piece costs</h2>
    <CostBar :lines="lines" />
    <table>
      <tbody>
        <tr v-for="l in lines" :key="l.name">
          <th scope="row">
            {{ l.name }} <span class="quiet">{{ l.how }}</span>
          </th>
          <td>{{ l.amount }}</td>
        </tr>
        <tr class="sum">
          <th scope="row">A good piece, in twelves</th>
          <td>{{ cost }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 10px;
  align-content: start;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  padding-right: 12px;
  font-weight: 400;
  text-align: left;
}
td {
  text-align: right;
  vertical-align: top;
}
th,
td {
  padding-block: 5px;
  border-top: 1px solid var(--line);
}
.sum th,
.sum td {
  font-weight: 650;
  border-top-color: var(--ink);
}
</style>
