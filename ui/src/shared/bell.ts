// The sound at the end of a rest. It is made here, note by note, and laid into
// the sound card's own time ahead: so it is heard on the second also when the
// page is in the background, where timers are held back.

let sound: AudioContext | null = null

// wake lets the page make sounds; browsers allow it only in answer to a tap or a key.
export function wake() {
  sound ??= new AudioContext()
  if (sound.state === 'suspended') void sound.resume()
}

// canRing tells whether a sound laid now would be heard.
export const canRing = () => sound?.state === 'running'

const notes = [659.3, 880, 1318.5]
const noteSeconds = 0.22
const rounds = 3
const roundSeconds = 1.1

// ringIn lays the sound so many seconds ahead and gives a way to take it back.
export function ringIn(seconds: number): () => void {
  if (!sound) return () => {}
  const begin = sound.currentTime + Math.max(0, seconds)
  const voices: OscillatorNode[] = []
  for (let round = 0; round < rounds; round++)
    for (const [i, hertz] of notes.entries()) {
      const at = begin + round * roundSeconds + i * noteSeconds
      const voice = new OscillatorNode(sound, { type: 'triangle', frequency: hertz })
      const loudness = new GainNode(sound, { gain: 0 })
      loudness.gain.setValueAtTime(0, at)
      loudness.gain.linearRampToValueAtTime(0.6, at + 0.02)
      loudness.gain.exponentialRampToValueAtTime(0.001, at + noteSeconds * 1.6)
      voice.connect(loudness).connect(sound.destination)
      voice.start(at)
      voice.stop(at + noteSeconds * 1.7)
      voices.push(voice)
    }
  return () => {
    for (const voice of voices) {
      voice.stop()
      voice.disconnect()
    }
  }
}
