/** Sound, vibration and a screen that stays awake, each where the device has it. */
import { useEffect } from 'react'

let context: AudioContext | null = null

/** One call to the hands: when, in seconds from now, how high, how long, and how it shakes. */
export interface Call {
  inS: number
  hz: number
  lastsS: number
  loud: number
  shakeMs: number[]
}

const AT_THE_MARK = { hz: 880, lastsS: 0.35, loud: 0.25, shakeMs: [180, 80, 180] }
const PULL = { hz: 520, lastsS: 0.06, loud: 0.15, shakeMs: [40] }
const HANG = { hz: 660, lastsS: 0.5, loud: 0.25, shakeMs: [120, 60, 120, 60, 120] }
/** A retrieve is not followed for longer. */
const MOST_PULLS = 240

export const mark = (inS: number): Call => ({ ...AT_THE_MARK, inS })
export const hang = (inS: number): Call => ({ ...HANG, inS })

/** A call at every pull, from one moment to another. */
export function pulls(fromS: number, toS: number, everyS: number): Call[] {
  const count = everyS > 0.2 ? Math.min(MOST_PULLS, Math.floor((toS - fromS) / everyS)) : 0
  return Array.from({ length: Math.max(0, count) }, (_, i) => ({ ...PULL, inS: fromS + i * everyS }))
}

/** Sound and shake at each; the tones are scheduled in the sound hardware, so they come while the page sleeps. */
export function call(calls: readonly Call[], sound: boolean): () => void {
  const stops: (() => void)[] = []
  const ahead = calls.filter(({ inS }) => inS >= 0)
  if (sound && ahead.length > 0 && 'AudioContext' in window) {
    context ??= new AudioContext()
    void context.resume().catch(() => undefined)
    // One reading of the clock for all of them: it goes on while they are laid out.
    const now = context.currentTime
    for (const { inS, hz, lastsS, loud } of ahead) {
      const tone = context.createOscillator()
      const gain = context.createGain()
      tone.frequency.value = hz
      gain.gain.value = loud
      tone.connect(gain).connect(context.destination)
      const start = now + inS
      tone.start(start)
      tone.stop(start + lastsS)
      stops.push(() => tone.disconnect())
    }
  }
  for (const { inS, shakeMs } of ahead) {
    // eslint-disable-next-line @typescript-eslint/no-unnecessary-condition -- not every browser can
    const timer = setTimeout(() => navigator.vibrate?.(shakeMs), inS * 1000)
    stops.push(() => clearTimeout(timer))
  }
  return () => stops.forEach((stop) => stop())
}

/** Sound and shake in so many seconds. */
export const signalIn = (inS: number, sound: boolean): (() => void) => call([mark(inS)], sound)

export function useWakeLock(on: boolean): void {
  useEffect(() => {
    if (!on || !('wakeLock' in navigator)) return
    let lock: WakeLockSentinel | null = null
    let ended = false
    const ask = () => {
      if (document.visibilityState !== 'visible') return
      navigator.wakeLock
        .request('screen')
        .then((got) => {
          lock = got
          if (ended) void got.release()
        })
        .catch(() => undefined)
    }
    ask()
    document.addEventListener('visibilitychange', ask)
    return () => {
      ended = true
      document.removeEventListener('visibilitychange', ask)
      void lock?.release()
    }
  }, [on])
}
