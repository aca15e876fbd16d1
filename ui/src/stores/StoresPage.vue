<script setup lang="ts">
import { computed, type Component } from 'vue'
import { useRoute } from 'vue-router'
import { useTray } from '../shared/tray'
import BoughtList from './BoughtList.vue'
import MaterialList from './MaterialList.vue'
import ShelfList from '../fulfilment/ShelfList.vue'
import PageHead from '../shared/PageHead.vue'

// What pieces are made with, what lies finished, and what was bought.
const { open } = useTray()
const route = useRoute()
const views: Record<string, { name: string; list: Component }> = {
  materials: { name: 'Materials', list: MaterialList },
  shelf: { name: 'Shelf', list: ShelfList },
  bought: { name: 'Bought', list: BoughtList },
}
const view = computed(() => (String(route.query.view) in views ? String(route.query.view) : 'materials'))
</script>

<template>
  <PageHead name="Stores">
    <nav aria-label="Views of the stores">
      <RouterLink
        v-for="(v, key) in views"
        :key="key"
        :to="{ query: { view: key === 'materials' ? undefined : key } }"
        :aria-current="key === view ? 'page' : undefined"
        >{{ v.name }}</RouterLink
      >
    </nav>
    <template #acts>
      <button class="word" type="button" @click="open('files')">Import and export</button>
      <button class="side" type="button" @click="open('new-material')">New material</button>
      <button class="act" type="button" @click="open('receipt')">Enter what you bought</button>
    </template>
  </PageHead>
  <component :is="views[view]!.list" />
</template>

<style scoped>
nav {
  display: flex;
  gap: 4px 18px;
}
nav a {
  display: inline-flex;
  align-items: center;
  min-height: 44px;
  color: var(--soft);
  text-decoration: none;
}
nav a:hover {
  text-decoration: underline;
}
nav a[aria-current] {
  color: var(--ink);
  font-weight: 650;
  box-shadow: inset 0 -3px 0 var(--clay);
}
</style>
