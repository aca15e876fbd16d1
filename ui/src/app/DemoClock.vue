<script setup lang="ts">
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { rightNow, thisMinute } from '../shared/clock'
import { clock, dateOf, moment, shortDay } from '../shared/time'
import { say } from '../shared/toast'

// The demo goes by a clock of its own, which anybody may move on to see what comes.
type Where = Schemas['Move']['to']
const ways: [Where, string][] = [
  ['quarter', 'A quarter of an hour on'],
  ['ready', 'To the next thing that is ready'],
  ['closing', 'To the end of the day'],
  ['opening', 'To the next working morning'],
]
const { tell, busy } = useAct()

const putDown = (p: Schemas['PutDown']) => `${p.stepName}, ${p.pieces} × ${p.product}, put down at ${clock(p.at)}`
async function move(to: Where) {
  const body = { to, since: new Date(rightNow()).toISOString() }
  const moved = await tell(() => answerOf(api.POST('/api/demo-clock/move', { body })))
  if (!moved) return
  const down = moved.putDown.map(putDown).join('; ')
  say({ text: `It is ${moment(moved.now, moved.now)}, ${shortDay(dateOf(moved.now))}.${down ? ` ${down}.` : ''}` })
}
</script>

<template>
  <el-dropdown trigger="click" popper-class="demo-clock" @command="move">
    <button
      type="button"
      class="clock"
      :disabled="busy"
      :aria-label="`The demo’s own clock, ${shortDay(dateOf(thisMinute))} ${clock(thisMinute)}: move it on`"
    >
      <span class="demo">demo</span> <span class="date">{{ shortDay(dateOf(thisMinute)) }}&nbsp;</span>
      <b>{{ clock(thisMinute) }}</b> <i aria-hidden="true">›</i>
    </button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-for="[to, name] in ways" :key="to" :command="to">{{ name }}</el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>

<style scoped>
.clock {
  min-height: 32px;
  padding: 0 10px;
  border: 1px dashed var(--edge);
  border-radius: var(--radius);
  background: none;
  color: var(--ink);
  white-space: nowrap;
  cursor: pointer;
}
.clock:hover {
  background: var(--paper);
}
.demo {
  color: var(--soft);
  font-size: 13px;
  font-style: italic;
}
i {
  display: inline-block;
  color: var(--soft);
  font-style: normal;
  transform: rotate(90deg);
}
@media (max-width: 1150px) {
  .date {
    display: none;
  }
}
@media (max-width: 640px), (pointer: coarse) {
  .clock {
    min-width: 48px;
    min-height: 44px;
    padding: 0 6px;
  }
}
</style>
