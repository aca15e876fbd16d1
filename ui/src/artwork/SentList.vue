<script setup lang="ts">
import { computed } from 'vue'
import { usePutIn } from './putIn'

// What is being put in, how far it is, and what did not go well.
const { queue, open, stop, again, forget } = usePutIn()
const seen = computed(() => queue.filter((s) => s.state !== 'sent' || s.says))
const sent = computed(() => queue.filter((s) => s.state === 'sent').length)
</script>

<template>
  <section v-if="seen.length" class="sent" aria-label="Being put in">
    <div class="head">
      <p role="status">
        <template v-if="open.length">{{ sent }} of {{ queue.length }} put in</template>
        <template v-else-if="sent">{{ sent === 1 ? 'One picture was' : `${sent} pictures were` }} put in</template>
      </p>
      <button v-if="open.length" class="word" type="button" @click="stop">Stop</button>
      <button v-else class="word" type="button" @click="queue.splice(0)">Done with these</button>
    </div>
    <ul>
      <li v-for="s in seen" :key="s.name + s.file.lastModified">
        <span class="name">{{ s.name }}</span>
        <el-progress
          v-if="s.state === 'sending'"
          :percentage="Math.round(s.share * 100)"
          :show-text="false"
          :stroke-width="8"
          :aria-label="`How far ${s.name} is`"
        />
        <span v-else-if="s.state === 'waiting'" class="quiet">waits</span>
        <span v-else :class="{ bad: s.state === 'refused' }">{{ s.says }}</span>
        <button v-if="s.state === 'lost'" class="word" type="button" @click="again(s)">Send again</button>
        <button v-else-if="s.state === 'refused'" class="word" type="button" @click="forget(s)">Leave it</button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.sent {
  margin-bottom: 18px;
  padding: 10px 14px;
  border: 1px solid var(--line);
  background: var(--sheet);
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 16px;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 14em) minmax(0, 1fr) auto;
  gap: 4px 16px;
  align-items: center;
  min-height: 36px;
  border-top: 1px solid var(--line);
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.bad {
  color: var(--brick);
}
@media (max-width: 640px) {
  li {
    grid-template-columns: minmax(0, 1fr) auto;
    padding: 6px 0;
  }
  .name {
    grid-column: 1 / -1;
  }
}
</style>
