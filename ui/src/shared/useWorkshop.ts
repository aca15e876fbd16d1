import { computed, watchEffect } from 'vue'
import { useAnswer } from '../api/answers'
import { habit } from './habit'
import { currency } from './money'
import { personId } from './settings'
import { zone } from './time'

// useWorkshop reads the workshop, and sets the time zone, currency and habits that every page shows.
export function useWorkshop() {
  const query = useAnswer('/api/workshop')
  const people = computed(() => query.data.value?.people ?? [])
  watchEffect(() => {
    const workshop = query.data.value
    if (!workshop) return
    zone.value = workshop.timeZone
    currency.value = workshop.currency
    habit.value = workshop.habit
    if (!workshop.people.some((p) => p.id === personId.value)) personId.value = workshop.people[0]?.id ?? 0
  })
  return { workshop: query.data, people, query }
}
