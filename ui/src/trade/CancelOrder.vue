<script setup lang="ts">
import { computed } from 'vue'
import { useAnswer } from '../api/answers'
import DialogBox from '../shared/dialog'
import { money } from '../shared/money'

// What cancelling an order comes to, before it is done.
const props = defineProps<{ id: number }>()
const emit = defineEmits<{ cancel: []; keep: [] }>()
const { data: account } = useAnswer('/api/orders/{id}/money', () => ({ path: { id: props.id } }))
const back = computed(() => Number(account.value?.paid ?? 0) - Number(account.value?.wouldBe?.kept ?? 0))
</script>

<template>
  <DialogBox :model-value="true" title="Cancel this order?" width="420" @update:model-value="emit('keep')">
    <p>Plain pieces made for it go to the shelf. Pieces with names stay in their batch and serve nobody.</p>
    <p v-if="account?.wouldBe && Number(account.wouldBe.spent) > 0">
      {{ money(account.wouldBe.spent) }} is spent on pieces that serve nobody else.
    </p>
    <p v-if="account?.wouldBe && Number(account.paid) > 0">
      Of the {{ money(account.paid) }} paid, {{ money(account.wouldBe.kept) }} is kept by your terms<template
        v-if="back > 0"
        >, and {{ money(back) }} goes back</template
      >.
    </p>
    <template #footer>
      <button class="side" type="button" @click="emit('cancel')">Cancel the order</button>&nbsp;
      <button class="act" type="button" @click="emit('keep')">Keep it</button>
    </template>
  </DialogBox>
</template>
