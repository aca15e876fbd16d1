<script setup lang="ts">
import { ref } from 'vue'
import { useAnswer } from '../api/answers'
import { useWorkshop } from '../shared/useWorkshop'
import MemberForm from './MemberForm.vue'
import { roles } from './useMe'

// Everybody with a sign-in of their own.
const { data: members } = useAnswer('/api/members')
const { people } = useWorkshop()
const open = ref<number | 'new' | null>(null)
const worker = (id?: number) => people.value.find((p) => p.id === id)?.name
</script>

<template>
  <section aria-labelledby="members">
    <h2 id="members">People</h2>
    <ul class="members">
      <li v-for="m in members" :key="m.id">
        <button type="button" class="member" :aria-expanded="open === m.id" @click="open = open === m.id ? null : m.id">
          <b>{{ m.name }}</b>
          <span>{{ roles[m.role].name }}</span>
          <span class="quiet"
            >{{ m.personId ? `works as ${worker(m.personId) ?? 'somebody who left'}` : 'not at the bench'
            }}{{ m.hasPassword ? '' : ', no password: by a paired device only' }}</span
          >
        </button>
        <MemberForm v-if="open === m.id" :member="m" @done="open = null" />
      </li>
    </ul>
    <MemberForm v-if="open === 'new'" @done="open = null" />
    <button v-else class="side" type="button" @click="open = 'new'">Let somebody in</button>
  </section>
</template>

<style scoped>
.members {
  width: 100%;
  border-top: 1px solid var(--edge);
}
.member {
  display: grid;
  grid-template-columns: 2fr 1fr 3fr;
  gap: 2px 14px;
  align-items: baseline;
  width: 100%;
  min-height: 44px;
  padding: 8px 0;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  text-align: left;
  overflow-wrap: anywhere;
  cursor: pointer;
}
.member:hover {
  background: var(--sheet);
}
@media (max-width: 640px) {
  .member {
    grid-template-columns: 1fr auto;
  }
  .member .quiet {
    grid-column: 1 / -1;
  }
}
</style>
