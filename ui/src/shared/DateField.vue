<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import FieldRow from './FieldRow.vue'
import { dateFormat, habit } from './habit'
import { dayIn, noDay } from './reading'
import { numbered } from './time'
import { useWeek } from './useWeek'

// A day such as 2027-03-01, typed in the studio's own order of dates or picked from a
// calendar. What day it may be the server says, beside the field, so that nothing typed is lost.
const props = defineProps<{ label: string; fault?: string; hint?: string; bare?: boolean; disabled?: boolean }>()
const model = defineModel<string>({ required: true })
useWeek()

const typed = ref<string | null>(null)
const unread = ref('')
const shown = computed(() => typed.value ?? (model.value ? numbered(model.value) : ''))
function take(text: string) {
  const read = text.trim() === '' ? '' : dayIn(text, habit.value.dateOrder, model.value)
  unread.value = read === null ? noDay(habit.value.dateOrder) : ''
  if (read === null) return
  typed.value = null
  model.value = read
}

const open = ref(false)
const id = ref('')
async function pick(day: string | null) {
  unread.value = ''
  typed.value = null
  model.value = day ?? ''
  open.value = false
  await nextTick()
  document.getElementById(id.value)?.focus()
}
</script>

<template>
  <FieldRow v-slot="f" :label="label" :fault="unread || fault" :hint="hint" :bare="bare">
    <el-input
      :id="f.id"
      :model-value="shown"
      :placeholder="dateFormat().toLowerCase()"
      :disabled="disabled"
      autocomplete="off"
      maxlength="20"
      :aria-describedby="f.described"
      :aria-invalid="f.invalid"
      :validate-event="false"
      @update:model-value="typed = $event"
      @change="take"
    >
      <template #suffix>
        <el-popover v-model:visible="open" trigger="click" width="auto" :persistent="false" @show="id = f.id">
          <template #reference>
            <button class="calendar" type="button" :disabled="disabled" aria-label="Open the calendar">
              <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true">
                <path
                  d="M1.5 3.5h13v11h-13zM1.5 7h13M5 1v4M11 1v4"
                  fill="none"
                  stroke="currentColor"
                  stroke-width="1.5"
                />
              </svg>
            </button>
          </template>
          <el-date-picker-panel
            :model-value="model"
            type="date"
            value-format="YYYY-MM-DD"
            :border="false"
            :aria-label="props.label"
            @update:model-value="pick"
          />
        </el-popover>
      </template>
    </el-input>
  </FieldRow>
</template>

<style scoped>
.calendar {
  display: grid;
  place-items: center;
  width: 28px;
  height: 28px;
  padding: 0;
  border: 0;
  background: none;
  color: var(--soft);
  cursor: pointer;
}
@media (max-width: 640px), (pointer: coarse) {
  .calendar {
    width: 48px;
    height: 48px;
    margin-right: -10px;
  }
}
</style>
