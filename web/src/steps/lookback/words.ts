import type { Day, Schemas } from '../../api/client'
import { dateWords } from '../../format/clock'
import { compass, format, sky, type Units } from '../../format/units'

/** A day in one sentence. */
export function dayWords(day: Day, units: Units): string {
  const { conditions } = day
  const surface = conditions.readings[0]?.water_c
  const parts = [
    `${dateWords(conditions.at_local)}, ${day.water_name}`,
    surface === undefined ? '' : `${format('temperature', surface, units)} at the top`,
    `wind ${compass(conditions.wind_from_deg)} ${format('wind', conditions.wind_speed_mps, units)}`,
    sky(conditions.cloud_fraction),
    `${day.counts.cast ?? 0} casts, ${day.counts.landed ?? 0} landed`,
    day.counts.brought ? `${day.counts.brought} fish from another log` : '',
  ]
  return parts.filter(Boolean).join('; ')
}

/** A fish in few words: its kind, length and weight, weighed or by its length, and whether it was kept. */
export function fishSaid(entry: Schemas['EntryOut'], units: Units): string {
  const { weight_kg: weighed, usual_kg: usual } = entry
  const parts = [
    [entry.species, entry.length_m ? format('fishLength', entry.length_m, units) : '']
      .filter(Boolean)
      .join(' '),
    weighed
      ? `${format('mass', weighed, units)} weighed${entry.condition_pct === null ? '' : `, ${entry.condition_pct} % of a well-fed one`}`
      : usual
        ? `about ${format('mass', usual, units)}`
        : '',
    entry.kept === true ? 'kept' : entry.kept === false ? 'released' : '',
  ]
  return entry.kind === 'landed' ? parts.filter(Boolean).join(', ') : ''
}
