/** Sound, vibration and a screen that stays awake, each where the device has it. */
import { useEffect } from 'react'

let context: AudioContext | null = null

/** Sound and shake in so many seconds; the tone is scheduled in the sound hardware, so it comes while the page sleeps. */
export function signalIn(inS: number, sound: boolean): () => void {
  if (inS < 0) return () => undefined
  const stops: (() => void)[] = []
  if (sound && 'AudioContext' in window) {
    context ??= new AudioContext()
    void context.resume().catch(() => undefined)
    const tone = context.createOscillator()
    const gain = context.createGain()
    tone.frequency.value = 880
    gain.gain.value = 0.25
    tone.connect(gain).connect(context.destination)
    const start = context.currentTime + inS
    tone.start(start)
    tone.stop(start + 0.35)
    stops.push(() => tone.disconnect())
  }
  // eslint-disable-next-line @typescript-eslint/no-unnecessary-condition -- not every browser can
  const timer = setTimeout(() => navigator.vibrate?.([180, 80, 180]), inS * 1000)
  stops.push(() => clearTimeout(timer))
  return () => stops.forEach((stop) => stop())
}

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
