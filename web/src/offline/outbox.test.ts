import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it, vi } from 'vitest'

vi.stubGlobal('document', { cookie: 'csrftoken=abc' })

interface Sent {
  path: string
  method: string
  headers: Record<string, string>
  body: unknown
}

/** A server that answers so, one after the other; then nobody is there. */
function server(...answers: (Response | 'gone')[]): Sent[] {
  const sent: Sent[] = []
  vi.stubGlobal(
    'fetch',
    (path: string, init: { method: string; headers: Record<string, string>; body?: string }) => {
      const answer = answers.shift() ?? 'gone'
      if (answer === 'gone') return Promise.reject(new TypeError('no connection'))
      const { method, headers, body } = init
      sent.push({
        path,
        method,
        headers,
        body: body === undefined ? undefined : (JSON.parse(body) as unknown),
      })
      return Promise.resolve(answer)
    },
  )
  return sent
}

const ok = () => Response.json({})
const refused = (status: number, code = 'invalid', detail = 'Not so.', more: Record<string, string> = {}) =>
  Response.json({ code, detail, fields: {} }, { status, headers: more })

/** The outbox of a page that was just opened, with nothing in it. */
async function opened() {
  vi.resetModules()
  vi.stubGlobal('document', { cookie: 'csrftoken=abc' })
  const { store } = await import('./store')
  await store.open()
  await store.outbox.clear()
  const { flush, queue } = await import('./outbox')
  const waits = () => store.outbox.toArray()
  const entry = (n: number, username = 'angler') =>
    queue({ username, method: 'PUT', path: `/api/days/d/entries/${n}`, body: { n } })
  return { store, flush, entry, waits }
}

describe('the outbox', () => {
  let box: Awaited<ReturnType<typeof opened>>
  beforeEach(async () => {
    box = await opened()
  })

  it('sends all that waits in its order and keeps none of it', async () => {
    const sent = server(ok(), ok(), ok())
    for (const n of [1, 2, 3]) await box.entry(n)
    await box.flush('angler')
    expect(sent.map(({ body }) => body)).toEqual([{ n: 1 }, { n: 2 }, { n: 3 }])
    expect(await box.waits()).toEqual([])
  })

  it('says whose it is and when it was written', async () => {
    const [sent] = [server(ok())]
    await box.entry(1, 'ängler')
    await box.flush('ängler')
    expect(sent[0]?.headers['X-Angler']).toBe(encodeURIComponent('ängler'))
    expect(sent[0]?.headers['X-CSRFToken']).toBe('abc')
    expect(Number(sent[0]?.headers['X-Now-Ms'])).toBeGreaterThanOrEqual(
      Number(sent[0]?.headers['X-Written-Ms']),
    )
  })

  it('loses nothing where the connection goes in between', async () => {
    server(ok(), 'gone')
    for (const n of [1, 2, 3]) await box.entry(n)
    await box.flush('angler')
    expect((await box.waits()).map(({ body }) => body)).toEqual([{ n: 2 }, { n: 3 }])
    server(ok(), ok())
    await box.flush('angler')
    expect(await box.waits()).toEqual([])
  })

  it.each([401, 403, 408, 429, 500, 502, 503])(
    'keeps what is answered with %i for later, in its place',
    async (status) => {
      server(refused(status))
      await box.entry(1)
      await box.entry(2)
      await box.flush('angler')
      const rows = await box.waits()
      expect(rows.map(({ refused: why }) => why)).toEqual([null, null])
    },
  )

  it.each([400, 404, 409, 422])(
    'sets aside what is answered with %i, says why, and goes on',
    async (status) => {
      const sent = server(refused(status), ok())
      await box.entry(1)
      await box.entry(2)
      await box.flush('angler')
      expect(sent).toHaveLength(2)
      expect(await box.waits()).toMatchObject([{ body: { n: 1 }, refused: 'Not so.' }])
    },
  )

  it('waits for its own angler and sends nothing of another’s', async () => {
    const sent = server(ok(), ok())
    await box.entry(1, 'other')
    await box.entry(2)
    await box.flush('angler')
    expect(sent).toHaveLength(1)
    expect((await box.waits()).map(({ username }) => username)).toEqual(['other'])
  })

  it('is held where another person is signed in', async () => {
    server(refused(409, 'another_person'))
    await box.entry(1)
    await box.flush('angler')
    expect((await box.waits())[0]?.refused).toBeNull()
  })

  it('leaves a busy server alone for as long as it asks', async () => {
    const sent = server(refused(429, 'too_many', 'Later.', { 'Retry-After': '30' }), ok())
    await box.entry(1)
    await box.flush('angler')
    await box.flush('angler')
    expect(sent).toHaveLength(1)
    expect(await box.waits()).toHaveLength(1)
  })

  it('is sent by one sender at a time', async () => {
    const sent = server(ok())
    await box.entry(1)
    await Promise.all([box.flush('angler'), box.flush('angler'), box.flush('angler')])
    expect(sent).toHaveLength(1)
  })
})
