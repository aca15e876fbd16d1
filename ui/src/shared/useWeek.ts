import dayjs from 'dayjs'
import updateLocale from 'dayjs/plugin/updateLocale'
import { watchEffect } from 'vue'
import { habit } from './habit'

dayjs.extend(updateLocale)

// useWeek begins the weeks of the calendars that open with the studio's own first day.
export const useWeek = () =>
  watchEffect(() => dayjs.updateLocale('en', { weekStart: habit.value.firstWeekday }), { flush: 'sync' })
