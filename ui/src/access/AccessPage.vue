<script setup lang="ts">
import { computed, ref } from 'vue'
import { useAnswer } from '../api/answers'
import InTurn from '../shared/InTurn.vue'
import PageHead from '../shared/PageHead.vue'
import WaitingRows from '../shared/WaitingRows.vue'
import DeviceList from './DeviceList.vue'
import HouseFacts from './HouseFacts.vue'
import MemberList from './MemberList.vue'
import OwnSignIn from './OwnSignIn.vue'
import PairDevice from './PairDevice.vue'
import SetUpOwner from './SetUpOwner.vue'
import { useMe } from './useMe'

// Who may come in, and by what.
const { me, owns } = useMe()
const { data: house } = useAnswer('/api/house')
// Who has become the owner keeps the codes first.
const settingUp = ref(false)
const known = computed(() => me.value && house.value)
</script>

<template>
  <PageHead name="Who may come in">
    <template v-if="owns" #acts><RouterLink class="word" to="/workshop">The workshop</RouterLink></template>
  </PageHead>
  <WaitingRows v-if="!known" :rows="6" />
  <SetUpOwner v-else-if="!me!.owned || settingUp" @begun="settingUp = true" @done="settingUp = false" />
  <div v-else class="access">
    <div class="column">
      <MemberList v-if="owns" />
      <InTurn v-if="owns"><PairDevice :house="house!" /></InTurn>
      <DeviceList v-if="!owns" />
    </div>
    <div class="column">
      <InTurn v-if="owns"><DeviceList /></InTurn>
      <InTurn><OwnSignIn :me="me!" /></InTurn>
      <InTurn><HouseFacts :house="house!" /></InTurn>
    </div>
  </div>
</template>

<style scoped>
.access {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 32px;
}
.column {
  display: grid;
  gap: 28px;
  align-content: start;
}
.access :deep(section),
.access :deep(form) {
  display: grid;
  gap: 10px;
  align-content: start;
  justify-items: start;
}
.access :deep(form) {
  width: 100%;
}
.access :deep(form > *:not(button)) {
  width: 100%;
}
@media (max-width: 1000px) {
  .access {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
