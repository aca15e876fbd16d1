<script setup lang="ts">
import { computed, nextTick, onMounted, onUnmounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import EnterByCode from './EnterByCode.vue'
import RecoverForm from './RecoverForm.vue'
import SignInForm from './SignInForm.vue'

// What stands before the studio as long as it does not know who this is. The page
// behind it stays as it was, with what was typed.
const route = useRoute()
const forgotten = ref(false)
const pairing = computed(() => route.path === '/pair')
const door = ref<HTMLElement | null>(null)
// Whatever else is open stays open, and out of reach.
const behind = () =>
  [...document.body.children].filter((e): e is HTMLElement => e instanceof HTMLElement && e !== door.value)
onMounted(async () => {
  for (const e of behind()) e.inert = true
  await nextTick()
  door.value?.querySelector<HTMLElement>('input, button')?.focus()
})
onUnmounted(() => {
  for (const e of behind()) e.inert = false
})
</script>

<template>
  <Teleport to="body">
    <div ref="door" class="door">
      <main aria-labelledby="door">
        <p class="mark">
          <img src="/kiln.svg" alt="" width="24" height="24" />
          Tidy Kiln
        </p>
        <EnterByCode v-if="pairing" />
        <RecoverForm v-else-if="forgotten" @back="forgotten = false" />
        <SignInForm v-else @forgotten="forgotten = true" />
      </main>
    </div>
  </Teleport>
</template>

<style scoped>
.door {
  position: fixed;
  inset: 0;
  z-index: 3500;
  display: grid;
  align-items: start;
  justify-items: center;
  padding: 12vh 20px 40px;
  background: var(--paper);
  overflow-y: auto;
}
main {
  display: grid;
  gap: 14px;
  width: min(100%, 380px);
  padding: 0;
}
.mark {
  display: flex;
  gap: 9px;
  align-items: center;
  padding-bottom: 12px;
  border-bottom: 1px solid var(--edge);
  font: 650 19px/1 var(--heading);
}
main :deep(form) {
  display: grid;
  gap: 12px;
}
main :deep(.act) {
  min-height: 48px;
}
main :deep(.word) {
  justify-self: start;
  min-height: 40px;
}
</style>
