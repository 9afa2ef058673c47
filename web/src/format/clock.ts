/** Dates and clocks at a water, in its own time zone: the device may be set to another. */
import { Temporal } from 'temporal-polyfill'

function there(timeZone: string, at: Date | number): Temporal.ZonedDateTime {
  return Temporal.Instant.fromEpochMilliseconds(Number(at)).toZonedDateTimeISO(timeZone)
}

/** Clock time at a water, `YYYY-MM-DDTHH:MM`: now, or at an instant. */
export function clockAt(timeZone: string, at: Date | number = Date.now()): string {
  return there(timeZone, at).toPlainDateTime().toString({ smallestUnit: 'minute' })
}

const [MORNING_H, EVENING_H, BEGINS_H] = [6, 20, 10]

/** The clock at a water: now by day, or the next morning when it is night there. */
export function nextDaylight(timeZone: string): string {
  const now = there(timeZone, Date.now())
  if (now.hour >= MORNING_H && now.hour < EVENING_H) return clockAt(timeZone)
  const day = now.hour < MORNING_H ? now : now.add({ days: 1 })
  return day.toPlainDate().toPlainDateTime({ hour: BEGINS_H }).toString(MINUTES)
}

/** The date at a water, `YYYY-MM-DD`. */
export function dateAt(timeZone: string, at: Date | number = Date.now()): string {
  return there(timeZone, at).toPlainDate().toString()
}

/** Hours and minutes at a water of an instant the server tells. */
export function timeAt(timeZone: string, at: string): string {
  return Temporal.Instant.from(at).toZonedDateTimeISO(timeZone).toPlainTime().toString(MINUTES)
}

const MINUTES = { smallestUnit: 'minute' } as const

/** Of a clock time as it was typed at a water: its hours and minutes, `10:40`. */
export function timeOf(local: string): string {
  return Temporal.PlainTime.from(local).toString(MINUTES)
}

/** The same to the minute, as a form takes it: `YYYY-MM-DDTHH:MM`. */
export function clockOf(local: string): string {
  return Temporal.PlainDateTime.from(local).toString(MINUTES)
}

export function dateOf(local: string): string {
  return Temporal.PlainDate.from(local).toString()
}

export function hourOf(local: string): string {
  return String(Temporal.PlainTime.from(local).hour).padStart(2, '0')
}

/** `Tuesday 14 July 2026`. */
export function dateWords(local: string): string {
  const said = { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' } as const
  return Temporal.PlainDate.from(local).toLocaleString('en-GB', said)
}

/** `Tue 14 Jul, 10:40`. */
export function dayAndTime(local: string): string {
  const said = { weekday: 'short', day: 'numeric', month: 'short' } as const
  return `${Temporal.PlainDate.from(local).toLocaleString('en-GB', said)}, ${timeOf(local)}`
}

/** `14 Jul 26`. */
export function shortDate(local: string): string {
  const said = { day: 'numeric', month: 'short', year: '2-digit' } as const
  return Temporal.PlainDate.from(local).toLocaleString('en-GB', said)
}

/** `Jul`. */
export function monthShort(local: string): string {
  return Temporal.PlainDate.from(local).toLocaleString('en-GB', { month: 'short' })
}

/** The instant of a clock time at a water, in ms since 1970. */
export function instantOf(timeZone: string, local: string): number {
  return Temporal.PlainDateTime.from(local).toZonedDateTime(timeZone).epochMilliseconds
}

/** `27 Nov 2026`, where the device is. */
export function dateHere(at: string): string {
  const said = { day: 'numeric', month: 'short', year: 'numeric' } as const
  return new Date(at).toLocaleDateString('en-GB', said)
}

const HOUR_MS = 3_600_000

/** How long ago, by the hour and then by the day. */
export function ago(at: string): string {
  const hours = Math.floor((Date.now() - Date.parse(at)) / HOUR_MS)
  const words = new Intl.RelativeTimeFormat('en-GB', { numeric: 'auto' })
  if (hours < 1) return 'within the hour'
  return hours < 48 ? words.format(-hours, 'hour') : words.format(-Math.floor(hours / 24), 'day')
}
