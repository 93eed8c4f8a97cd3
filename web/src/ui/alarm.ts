/** Sound for a clock that has run out. A browser lets it sound only after somebody has touched the page. */

const MUTED = 'keen-beaker.muted'

export function isMuted(): boolean {
  return localStorage.getItem(MUTED) === 'yes'
}

/** All alarms of this device, at once. */
export function setMuted(muted: boolean): void {
  localStorage.setItem(MUTED, muted ? 'yes' : 'no')
}

let context: AudioContext | undefined

/** Two short tones; silence where the browser has no sound, or does not let it. */
export function ring(): void {
  if (isMuted() || typeof AudioContext === 'undefined') return
  context ??= new AudioContext()
  const start = context.currentTime
  for (const [at, pitch] of [
    [0, 880],
    [0.25, 660],
  ] as const) {
    const tone = context.createOscillator()
    const volume = context.createGain()
    tone.frequency.value = pitch
    volume.gain.setValueAtTime(0.2, start + at)
    volume.gain.exponentialRampToValueAtTime(0.001, start + at + 0.22)
    tone.connect(volume).connect(context.destination)
    tone.start(start + at)
    tone.stop(start + at + 0.24)
  }
}
