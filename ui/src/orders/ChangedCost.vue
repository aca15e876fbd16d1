<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { money } from '../shared/money'
import { plainDecimal } from '../shared/reading'

// What an order comes to when it is changed so, before it is.
const props = defineProps<{ order: Schemas['OrderPage']; lines: { unitPrice: string; wants: unknown[] }[] }>()
const was = computed(() => props.order.lines.reduce((all, l) => all + l.quantity * Number(l.unitPrice), 0))
const becomes = computed(() =>
  props.lines.reduce((all, l) => all + l.wants.length * Number(plainDecimal(l.unitPrice)), 0),
)
const differs = computed(() => Number.isFinite(becomes.value) && Math.abs(becomes.value - was.value) >= 0.005)
</script>

<template>
  <p v-if="differs" role="status">
    It comes to <b>{{ money(becomes) }}</b> instead of {{ money(was) }}.
  </p>
</template>
