/** The one way to the server: typed by the generated contract, with one shape for every refusal. */
import createClient, { type Middleware } from 'openapi-fetch'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type Picture = Schemas['PictureOut']
export type Choice = Schemas['ChoiceOut']
/** A presentation over time, by any method. */
export type Run = Schemas['RunOut']
/** A run with the bottom it goes over, as far as it is known: what the Column draws. */
export type Drawn = Run & { bottom?: Schemas['CornerIn'][] }
export type Ranked = Schemas['RankedOut']
/** What is done with a rig: a cast, a float that hangs, a tow. */
export type Action = Ranked['action']
export type Conditions = Schemas['ConditionsIn']
export type Phrase = Schemas['PhraseOut']
export type Preferences = Schemas['PreferencesOut']
export type Session = Schemas['SessionOut']
export type Water = Schemas['WaterOut']
export type Chart = Schemas['ChartOut']
export type Day = Schemas['DayOut']

/** Lands straight, line held tight through the count, from a place that does not move. */
export const USUAL_HANDLING = { slack: 0, loose: false, tip_mps: 0, tip_y_mps: 0, drag_mps: 0.04 } as const

/** Cast straight across the wind, never mended, fished to its end. */
export const ACROSS: Pick<Schemas['HangIn'], 'off_wind_deg' | 'mends_s' | 'recasts'> = {
  off_wind_deg: 90,
  mends_s: [],
  recasts: false,
}

/** Why the server said no: `fields` maps a field's name to its own message. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    detail: string,
    readonly fields: Record<string, string>,
  ) {
    super(detail)
  }

  /** The message of the first field whose dotted name ends in one of these names. */
  at(...names: string[]): string | undefined {
    return Object.entries(this.fields).find(([path]) => names.includes(path.split('.').at(-1) ?? ''))?.[1]
  }
}

export class NoConnection extends Error {
  constructor() {
    super('No connection. What you log is kept here and sent later; this has to wait until there is one.')
  }
}

export function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? ''
}

const withCsrf: Middleware = {
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRFToken', csrfToken())
    return request
  },
}

function isProblem(value: unknown): value is Schemas['Problem'] {
  return typeof value === 'object' && value !== null && 'code' in value && 'detail' in value
}

/** What is not an answer is thrown: `Refusal` when the server said no, `NoConnection` when it could not be asked. */
const orThrow: Middleware = {
  async onResponse({ response }) {
    if (response.ok) return
    const problem: unknown = await response
      .clone()
      .json()
      .catch(() => null)
    if (isProblem(problem)) throw new Refusal(response.status, problem.code, problem.detail, problem.fields)
    throw new Refusal(response.status, 'server', `The server could not answer (${response.status}).`, {})
  },
  onError({ error }) {
    return error instanceof DOMException && error.name === 'AbortError' ? error : new NoConnection()
  },
}

export const client = createClient<paths>({ baseUrl: '', credentials: 'same-origin' })
client.use(withCsrf, orThrow)

const PAGE = 200

/** All items of a list, asked for page by page. */
export async function everyPage<T>(
  ask: (query: { limit: number; offset: number }) => Promise<{ items: T[]; count: number }>,
): Promise<T[]> {
  const items: T[] = []
  for (;;) {
    const page = await ask({ limit: PAGE, offset: items.length })
    items.push(...page.items)
    if (items.length >= page.count || page.items.length === 0) return items
  }
}

/** Unwrap an answer; what was refused has been thrown by then. */
export async function answer<T>(pending: Promise<{ data?: T }>): Promise<T> {
  return (await pending).data as T
}
