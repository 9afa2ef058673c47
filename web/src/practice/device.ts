/** Practice days that were taken along: played by the device's own Python, and sent to the server as there is a connection. */
import { answer, client, NoConnection, type Schemas } from '../api/client'
import { sendPractised, waiting as waits } from '../offline/practised'
import { store, written, type Played, type Taken } from '../offline/store'
import { sameAction } from '../choice/ways'
import { ask } from '../python/client'

type Action = Schemas['ShotIn']['action']
export type Act = Taken['acts'][number]
type Level = Schemas['PracticeNameOut']['level']
type Asked =
  | { ask: 'show' }
  | { ask: 'act'; act: object }
  | { ask: 'advise' }
  | { ask: 'tell'; with_advice: boolean }
  | { ask: 'by'; school: string }
  | { ask: 'again'; level: Level }

interface Answered {
  refused?: { code: string; detail: string }
  new?: Taken['log'][number]
  plan: number
  day: Played
  advice?: Omit<Schemas['PracticeAdviceOut'], 'rig' | 'action'> & { key: string | null }
  takes?: number
  seed?: string
  sealed?: string
}

const CANNOT = 'This device can not run what a day needs without a connection. The day stays with the server.'

/** Ask the game of a day; questions are answered in their order. */
async function play(
  { pack, log, played }: Pick<Taken, 'pack' | 'log' | 'played'>,
  asked: Asked,
): Promise<Answered> {
  const question = JSON.stringify({ log, told: played.told, ...asked })
  const text = await ask('play', pack.game, question).catch((error: unknown) => {
    console.warn('this device cannot play', error)
    throw new Error(CANNOT)
  })
  const answered = JSON.parse(text) as Answered
  if (answered.refused) throw new Error(answered.refused.detail)
  return answered
}

/** Keep a day on this device, once this device has shown that it can play it. */
export async function takeAlong(username: string, day: Schemas['PracticeDayOut']): Promise<void> {
  const path = { day_id: day.id }
  const pack = await answer(client.POST('/api/practice-days/{day_id}/pack', { params: { path } }))
  const shown = await play({ pack, log: pack.log, played: day }, { ask: 'show' })
  const row: Taken = {
    dayId: day.id,
    username,
    pack,
    log: pack.log,
    plan: shown.plan,
    played: shown.day,
    ...NOTHING_DONE,
    takenAt: Date.now(),
    like: null,
    dealt: true,
  }
  await written(() => store.taken.put(row))
}

const NOTHING_DONE = { acts: [], sent: 0, refused: null, shots: [] }

/** Another day can be dealt on a water that went along before anything was read of it. */
export const canFollow = ({ pack }: Taken) => pack.log.length === 0

/** Deal another day on a water that was taken along: the fish are elsewhere. Return its id. */
export async function again(from: Taken, level: Level): Promise<string> {
  const { seed = '', sealed } = await play(from, { ask: 'again', level })
  const dayId = crypto.randomUUID()
  const game = JSON.stringify({ ...(JSON.parse(from.pack.game) as object), sealed })
  const pack = {
    ...from.pack,
    name: { ...from.pack.name, id: dayId, seed, level, for_friends: false },
    game,
    log: [],
  }
  const begun = { pack, log: [], played: { ...from.played, told: null } }
  const { plan, day } = await play(begun, { ask: 'show' })
  const row: Taken = {
    ...{ dayId, username: from.username, pack, log: [], plan, played: day },
    ...NOTHING_DONE,
    takenAt: Date.now(),
    like: from.like ?? from.dayId,
    dealt: false,
  }
  await written(() => store.taken.put(row))
  void sendPractised(row.username)
  return dayId
}

/** Forget the days that have ended and of which the server has everything, but for the last water that another can be dealt on. */
export async function tidy(username: string): Promise<void> {
  const rows = await store.taken.where('username').equals(username).sortBy('takenAt')
  const last = rows.filter(canFollow).at(-1)
  for (const row of rows)
    if (row !== last && row.played.told?.advice != null && waits(row) === 0)
      await store.taken.delete(row.dayId)
}

/** Let go of what was done here: the day is what the server has of it. */
export const letGo = (dayId: string) => store.taken.delete(dayId)

const flies = (rig: Schemas['RigIn']) => rig.flies.map(({ fly }) => fly.name).join('|')
const sameRig = (one: Schemas['RigIn'], other: Schemas['RigIn']) =>
  one.line.name === other.line.name && flies(one) === flies(other)
/** The cast as it went along, or was asked before; else it is asked now, and kept. */
async function shotOf(row: Taken, rig: Schemas['RigIn'], action: Action): Promise<Taken['shots'][number]> {
  const plan = row.pack.plans[row.plan]
  const turned = (plan?.ranked ?? []).flatMap((one) =>
    (plan?.turns[one.method.key] ?? []).map((turn) => ({ rig: one, ...turn })),
  )
  const known = [...turned, ...Object.values(plan?.ways ?? {}), ...row.shots].find(
    (one) => sameRig(one.rig, rig) && sameAction(one.action, action),
  )
  if (known) return { rig, action: known.action, shot: known.shot }
  const asked = { params: { path: { day_id: row.dayId } }, body: { rig, action } }
  try {
    const shot = await answer(client.POST('/api/practice-days/{day_id}/shots', asked))
    await store.taken.update(row.dayId, { shots: [...row.shots, { rig, action, shot }] })
    return { rig, action, shot }
  } catch (error) {
    if (error instanceof NoConnection) throw new Error(NOT_ALONG, { cause: error })
    throw error
  }
}

const NOT_ALONG =
  'That did not go along, and there is no connection to work it out. Counts go along by fives from the plan’s own, floats by a quarter of a metre.'

/** Do something on a day that is kept here: at once on the device, later on the server. */
export async function act(dayId: string, done: Act): Promise<void> {
  const row = await store.taken.get(dayId)
  if (!row) return
  if (done.kind === 'end') {
    const told = await play(row, { ask: 'tell', with_advice: false })
    await keep(row, { played: told.day }, done)
    return
  }
  if (done.kind === 'cast') {
    const { rig, action, shot } = await shotOf(row, done.rig, done.action)
    const played = await play(row, { ask: 'act', act: { kind: 'cast', shot } })
    await keep(row, after(row, played), { kind: 'cast', rig, action })
    return
  }
  const played = await play(row, { ask: 'act', act: done })
  await keep(row, after(row, played), done)
}

function after(row: Taken, played: Answered): Partial<Taken> {
  const { plan, day } = played
  return { log: played.new ? [...row.log, played.new] : row.log, plan, played: day }
}

async function keep(row: Taken, changes: Partial<Taken>, done: Act): Promise<void> {
  await written(() =>
    store.transaction('rw', store.taken, async () => {
      // What was sent meanwhile stays sent.
      const now = await store.taken.get(row.dayId)
      if (now) await store.taken.put({ ...now, ...changes, acts: [...now.acts, done] })
    }),
  )
  void sendPractised(row.username)
}

/** Work out what the advice would have taken: it takes longest, so it comes after the rest. */
export async function tellAdvice(row: Taken): Promise<void> {
  const { day } = await play(
    { ...row, played: { ...row.played, told: null } },
    { ask: 'tell', with_advice: true },
  )
  await written(() => store.taken.update(row.dayId, { played: day }))
}

export async function advise(row: Taken): Promise<Schemas['PracticeAdviceOut']> {
  const { advice } = await play(row, { ask: 'advise' })
  const { key = null, change = false, elsewhere = false, words = [] } = advice ?? {}
  const way = key === null ? undefined : row.pack.plans[row.plan]?.ways[key]
  return { change, elsewhere, words, rig: way?.rig ?? null, action: way?.action ?? null }
}

export async function bySchool(row: Taken, school: string): Promise<number> {
  return (await play(row, { ask: 'by', school })).takes ?? 0
}

/** The day as the page shows it, from what is kept here. */
export function dayOf({ pack, played }: Taken): Schemas['PracticeDayOut'] | null {
  const made = played.told ? Object.keys(played.costs_min) : played.made
  const hour = Math.min(Math.floor(played.at_min / 60), Math.floor(played.day_min / 60) - 1)
  const seen = pack.seen[`${[...made].sort().join('+')}|${hour}`]
  return seen ? { ...pack.name, ...played, ...seen } : null
}
