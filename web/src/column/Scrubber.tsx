/** Move through a cast: landing and count, retrieve, lift, hang. */
import { useEffect, useRef, useState } from 'react'
import { Slider } from 'radix-ui'
import type { Run } from '../api/client'
import { seconds } from '../format/units'

/** What goes on, by how it is fished. */
const WORDS = {
  cast: {
    count: 'count',
    retrieve: 'retrieve',
    lift: 'lift',
    hang: 'hang',
    since: 'after landing',
    whole: 'whole cast',
  },
  hang: {
    count: 'sinking',
    retrieve: 'drifting',
    lift: 'lift',
    hang: 'hang',
    since: 'after landing',
    whole: 'whole drift',
  },
  tow: {
    count: 'let out',
    retrieve: 'towed',
    lift: 'lift',
    hang: 'hang',
    since: 'from the start',
    whole: 'simulated',
  },
} as const
const PHASE_FILLS = {
  count: 'bg-[color-mix(in_oklab,var(--water-dark)_55%,var(--paper))]',
  retrieve: 'bg-rule',
  lift: 'bg-fish',
  hang: 'bg-fish-ink',
} as const
/** A cast plays in about this long, whatever it lasts. */
const PLAY_S = 8

export interface ScrubberProps {
  run: Run
  way?: keyof typeof WORDS
  timeS: number
  onTimeChange(timeS: number): void
}

export function Scrubber({ run, way = 'cast', timeS, onTimeChange }: ScrubberProps) {
  const [playing, setPlaying] = useState(false)
  const duration = run.time_s.at(-1) ?? 1
  const latest = useRef({ timeS, duration, onTimeChange })
  useEffect(() => {
    latest.current = { timeS, duration, onTimeChange }
  })
  useEffect(() => {
    if (!playing) return
    let last = performance.now()
    let frame = requestAnimationFrame(function move(now) {
      const { timeS: at, duration: end, onTimeChange: change } = latest.current
      const next = Math.min(at + ((now - last) / 1000) * (end / PLAY_S), end)
      last = now
      change(next)
      if (next >= end) setPlaying(false)
      else frame = requestAnimationFrame(move)
    })
    return () => cancelAnimationFrame(frame)
  }, [playing])

  const spans = phaseSpans(run)
  const phase = spans.find((span) => timeS <= span.end) ?? spans.at(-1)
  const said = WORDS[way]
  return (
    <div className="flex items-center gap-3">
      <button
        type="button"
        className="h-11 w-20 shrink-0 border-2 border-ink bg-sheet font-semibold"
        onClick={() => {
          if (!playing && timeS >= duration - 0.5) onTimeChange(0)
          setPlaying(!playing)
        }}
      >
        {playing ? 'Pause' : 'Play'}
      </button>
      <div className="min-w-0 grow">
        <Slider.Root
          className="relative flex h-7 w-full touch-none items-center"
          min={0}
          max={Math.round(duration * 10) / 10}
          step={0.1}
          value={[Math.min(timeS, duration)]}
          onValueChange={([value]) => {
            setPlaying(false)
            onTimeChange(value ?? 0)
          }}
        >
          <Slider.Track className="relative flex h-3 grow overflow-hidden border border-ink">
            {spans.map((span) => (
              <span
                key={span.phase}
                className={`h-full ${PHASE_FILLS[span.phase]}`}
                style={{ width: `${(100 * (span.end - span.start)) / duration}%` }}
              />
            ))}
          </Slider.Track>
          <Slider.Thumb
            aria-label="Moment of the cast"
            aria-valuetext={`${seconds(timeS)}, ${said[phase?.phase ?? 'count']}`}
            className="block size-7 rounded-full border-[3px] border-sheet bg-hot"
          />
        </Slider.Root>
        <p className="eyebrow flex justify-between">
          <span>
            {said[phase?.phase ?? 'count']} · {seconds(timeS)} {said.since}
          </span>
          <span>
            {said.whole} {seconds(duration)}
          </span>
        </p>
      </div>
    </div>
  )
}

interface Span {
  phase: keyof typeof PHASE_FILLS
  start: number
  end: number
}

function phaseSpans(run: Run): Span[] {
  const spans: Span[] = []
  run.phase.forEach((phase, i) => {
    const time = run.time_s[i] ?? 0
    const last = spans.at(-1)
    if (last?.phase === phase) last.end = time
    else {
      if (last) last.end = time
      spans.push({ phase, start: time, end: time })
    }
  })
  return spans
}
