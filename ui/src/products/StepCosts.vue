<script setup lang="ts">
import { amount } from '../shared/money'
import { figure, written } from '../shared/habit'
import { computed, ref, useId } from 'vue'
import CostBar from './CostBar.vue'
import { byKind, byStep, costKinds, percentOf, type CostLine } from './costs'

// The cost of a piece as a picture, step by step; each step opens to how it was worked out.
const props = defineProps<{ name: string; lines: CostLine[]; total: string }>()
const id = useId()
const steps = computed(() => byStep(props.lines))
const dearest = computed(() => Math.max(...steps.value.map((s) => s.amount), 0.0001))
const kinds = computed(() => byKind(props.lines))
const opened = ref('')
</script>

<template>
  <section :aria-labelledby="id">
    <h2 :id="id">{{ name }}, step by step</h2>
    <CostBar :lines="lines" />
    <ul class="legend">
      <li v-for="k in kinds" :key="k.key">
        <span :data-cost="k.key" />{{ k.name }} {{ figure(k.amount, 2) }}
        <span class="quiet">{{ percentOf(k.amount, Number(total)) }} %</span>
      </li>
    </ul>
    <ol>
      <li v-for="s in steps" :key="s.key">
        <button
          class="step"
          type="button"
          :aria-expanded="opened === s.key"
          @click="opened = opened === s.key ? '' : s.key"
        >
          <span class="name">{{ s.name }}</span>
          <CostBar :lines="s.lines" :of="dearest" slim />
          <b>{{ figure(s.amount, 2) }}</b>
        </button>
        <dl v-if="opened === s.key">
          <div v-for="l in s.lines.filter((l) => Number(l.amount) > 0)" :key="l.kind + l.name">
            <dt><span :data-cost="l.kind" />{{ l.name }}</dt>
            <dd class="quiet how">
              <span v-if="l.name !== costKinds[l.kind]" class="spoken">{{ costKinds[l.kind] }}: </span>{{ l.how }}
            </dd>
            <dd class="figure">{{ written(l.amount) }}</dd>
          </div>
        </dl>
      </li>
    </ol>
    <p class="sum">
      <span>A good piece</span><b>{{ amount(total) }}</b>
    </p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
  align-content: start;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  font-size: 14px;
}
.step {
  display: grid;
  grid-template-columns: minmax(0, 15em) minmax(60px, 1fr) 3.5em;
  gap: 12px;
  align-items: center;
  width: 100%;
  min-height: 32px;
  padding: 3px 0;
  border: 0;
  border-top: 1px solid var(--line);
  background: none;
  text-align: left;
  cursor: pointer;
}
.step:hover .name {
  text-decoration: underline;
}
.step b {
  text-align: right;
}
dl {
  margin: 0 0 10px;
  background: var(--sheet);
}
dl > div {
  display: grid;
  grid-template-columns: 14em minmax(0, 1fr) auto;
  gap: 2px 12px;
  padding: 4px 10px;
}
dd {
  margin: 0;
}
.figure {
  text-align: right;
}
.sum {
  display: flex;
  justify-content: space-between;
  padding-top: 5px;
  border-top: 1px solid var(--ink);
  font-weight: 650;
}
@media (max-width: 640px) {
  .step {
    grid-template-columns: minmax(0, 1fr) 3.5em;
    min-height: 48px;
  }
  .step b {
    grid-area: 1 / 2;
  }
  .step .bar {
    grid-area: 2 / 1 / 3 / -1;
  }
  dl > div {
    grid-template-columns: minmax(0, 1fr);
  }
  .figure {
    text-align: left;
    font-weight: 650;
  }
}
</style>
