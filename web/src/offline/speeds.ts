/** Speeds were called `_ms` once, which is also read as milliseconds: what was kept then, under the names of now. */
const RENAMED: Record<string, string> = Object.fromEntries(
  [
    'wind_speed',
    'wind',
    'speed',
    'tip',
    'tip_y',
    'tow',
    'drift',
    'cross_drift',
    'boat_drift',
    'tip_speed',
  ].map((quantity) => [`${quantity}_ms`, `${quantity}_mps`]),
)
RENAMED.towMs = 'towMps'

const named = (name: string) => RENAMED[name] ?? name

const spoken = (text: string) => text.replace(/\{(\w+)\}/g, (_, name: string) => `{${named(name)}}`)

/** A value as JSON has it, with its speeds renamed, also where a list names them as not read or a phrase speaks of one. */
export function inMps<T>(value: T): T {
  if (Array.isArray(value)) return value.map((one: unknown) => inMps(one)) as T
  if (value === null || typeof value !== 'object') return value
  return Object.fromEntries(
    Object.entries(value).map(([name, one]: [string, unknown]) => [
      named(name),
      name === 'assumed' && Array.isArray(one)
        ? one.map((each) => named(String(each)))
        : name === 'text' && typeof one === 'string'
          ? spoken(one)
          : inMps(one),
    ]),
  ) as T
}
