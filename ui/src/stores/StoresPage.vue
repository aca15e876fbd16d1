<script setup lang="ts">
import { computed, type Component } from 'vue'
import { useRoute, useRouter } from 'vue-router'
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
const router = useRouter()
const show = (key: string) => router.push({ query: { view: key === 'materials' ? undefined : key } })
const view = computed(() => (String(route.query.view) in views ? String(route.query.view) : 'materials'))
</script>

<template>
  <PageHead name="Stores">
    <template #acts>
      <button class="word" type="button" @click="open('files')">Import and export</button>
      <button class="side" type="button" @click="open('new-material')">New material</button>
      <button class="act" type="button" @click="open('receipt')">Enter what you bought</button>
    </template>
  </PageHead>
  <el-tabs :model-value="view" @update:model-value="show(String($event))">
    <el-tab-pane v-for="(v, key) in views" :key="key" :name="key" :label="v.name">
      <component :is="v.list" v-if="key === view" />
    </el-tab-pane>
  </el-tabs>
</template>
