<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted, shallowRef, type Component } from 'vue'
import { useMe } from '../access/useMe'
import { whenIdle } from '../shared/idle'
import { personId } from '../shared/settings'
import { useWorkshop } from '../shared/useWorkshop'

// Who works at this device. The name stands at once, and can be changed when the page has come to rest.
const { people } = useWorkshop()
const { me, fixed } = useMe()
const HolderPick = defineAsyncComponent(() => import('../access/HolderPick.vue'))
const name = computed(() => people.value.find((p) => p.id === personId.value)?.name ?? '')
const PickField = shallowRef<Component | null>(null)
onMounted(() => whenIdle(() => (PickField.value = defineAsyncComponent(() => import('../shared/PickField.vue')))))
</script>

<template>
  <HolderPick v-if="me?.shared" class="person" :me="me" />
  <RouterLink v-else-if="fixed" class="person" to="/workshop/access">{{ me!.member }}</RouterLink>
  <component
    :is="PickField"
    v-else-if="PickField && people.length > 0"
    v-model="personId"
    bare
    class="person"
    label="Who is at this device"
    :choices="people.map((p) => ({ value: p.id, name: p.name }))"
  />
  <span v-else class="person">{{ name }}</span>
</template>

<style scoped>
.person {
  align-self: center;
  width: 100px;
}
a {
  overflow: hidden;
  text-overflow: ellipsis;
  text-decoration: none;
  white-space: nowrap;
}
a:hover {
  text-decoration: underline;
}
a,
span {
  padding: 0 10px;
  font-weight: 650;
}
.person :deep(.el-select__wrapper:not(.is-focused)) {
  min-height: 36px;
  background: none;
  box-shadow: none;
  font-weight: 650;
}
</style>
