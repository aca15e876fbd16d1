import { useQuery } from '@tanstack/vue-query'
import { answerOf, api } from '../api/client'

// useRoom reads the room's air; a reading is made every minute.
export function useRoom() {
  const { data: room } = useQuery({
    queryKey: ['room'],
    queryFn: () => answerOf(api.GET('/api/room')),
    refetchInterval: 60_000,
  })
  return { room }
}
