import { useAnswer } from '../api/answers'

// useRoom reads the room's air, and again when the sensor has.
export function useRoom() {
  const { data: room } = useAnswer('/api/room')
  return { room }
}
