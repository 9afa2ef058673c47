/** What the readings say: where they likely feed, how sure that is, and why. */
import type { Picture } from '../../api/client'
import { chances, format, range, words } from '../../format/units'
import { useUnits } from '../../state/person'
import { NARROW } from '../../ui/Fold'
import { Segments } from '../../ui/Segments'
import { useMedia } from '../../ui/useMedia'
import { LikelyFood } from './LikelyFood'

/** What is drawn: the hour in hand, or the whole day. */
export type View = 'now' | 'day'

interface AnswerProps {
  picture: Picture
  view: View
  onViewChange(view: View): void
}

/** The likeliest band in a line, whether this hour or the day is drawn, and how much of it all is guess. */
export function Answer({ picture: seen, view, onViewChange }: AnswerProps) {
  const units = useUnits()
  const measured = Math.round(100 * seen.measured_share)
  const band = seen.belief.main_band
  const others = seen.belief.bands.filter((other) => other.top_m !== band.top_m)
  return (
    <div className="flex flex-wrap items-end justify-between gap-x-8 gap-y-2">
      <p>
        <span className="eyebrow block">Most likely feeding</span>
        <span className="plate text-4xl leading-none font-bold">
          {range('depth', band.top_m, band.bottom_m, units)}
        </span>
        <span className="ml-2 text-soft">down, {chances(band.chance)}</span>
        {others.map((other) => (
          <span key={other.top_m} className="block font-semibold">
            or {range('depth', other.top_m, other.bottom_m, units)}, {chances(other.chance)}
          </span>
        ))}
        <span className="block text-sm">{words(seen.activity.why, units)}</span>
      </p>
      <Segments
        label="Show"
        value={view}
        options={[
          { value: 'now', text: 'This hour' },
          { value: 'day', text: 'The day' },
        ]}
        onValueChange={(value) => onViewChange(value as View)}
        className="w-48 max-w-full"
      />
      <div className="w-56 max-w-full">
        <p className="flex justify-between text-sm font-semibold">
          <span>measured {measured} %</span>
          <span>guess {100 - measured} %</span>
        </p>
        <div className="mt-1 flex h-3 border border-ink" aria-hidden="true">
          <span className="bg-ink" style={{ width: `${measured}%` }} />
          <span
            className="grow"
            style={{
              background: 'repeating-linear-gradient(135deg, var(--rule) 0 3px, transparent 3px 7px)',
            }}
          />
        </div>
        <p className="mt-0.5 text-sm text-soft">
          {seen.wanted_reading_m === null
            ? 'One more reading would settle little.'
            : `A reading at ${format('depth', seen.wanted_reading_m, units)} would settle most.`}
        </p>
      </div>
    </div>
  )
}

export function Why({ picture }: { picture: Picture }) {
  const narrow = useMedia(NARROW)
  return (
    <div className="mt-2 grid gap-x-8 gap-y-2 md:grid-cols-2">
      <section aria-label="Why" className="text-[0.9375rem]">
        {narrow ? (
          <details>
            <summary className="flex min-h-11 cursor-pointer items-center font-semibold">Why there</summary>
            <Reasons picture={picture} />
          </details>
        ) : (
          <>
            <h2 className="eyebrow border-b border-ink pb-0.5">Why there</h2>
            <Reasons picture={picture} />
          </>
        )}
      </section>
      <LikelyFood picture={picture} />
    </div>
  )
}

function Reasons({ picture }: { picture: Picture }) {
  const units = useUnits()
  return (
    <>
      {picture.belief.factors.map((factor) => (
        <p key={factor.key} className="py-0.5 leading-tight">
          <strong className="mr-1.5">{factor.name}</strong>
          {words(factor.why, units)}
        </p>
      ))}
      {picture.trend && (
        <p className="py-0.5 leading-tight">
          <strong className="mr-1.5">Today</strong>
          {words(picture.trend, units)}
        </p>
      )}
      <p className="py-0.5 leading-tight">
        <strong className="mr-1.5">Wind</strong>
        {picture.wind_notes.map((note) => words(note, units)).join(' ')}
      </p>
    </>
  )
}
