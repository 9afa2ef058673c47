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
function server(...answers: (Response | 'gone' | 'stored')[]): Sent[] {
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
      // What is stored is told with its id, as the server does.
      return Promise.resolve(
        answer === 'stored' ? Response.json({ id: path.split('/').at(-1) }, { status: 201 }) : answer,
      )
    },
  )
  return sent
}

const ok = () => 'stored' as const
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
  return { store, flush, entry, waits, queue }
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

  it.each([
    [
      'a portal’s page',
      () => new Response('<html>Welcome</html>', { headers: { 'Content-Type': 'text/html' } }),
    ],
    ['JSON that is not ours', () => Response.json({ ok: true })],
    ['what was stored of another', () => Response.json({ id: '77' })],
    ['nothing at all', () => new Response(null, { status: 204 })],
  ])('keeps what %s answers with "well"', async (_, answer) => {
    server(answer())
    await box.entry(1)
    await box.flush('angler')
    expect(await box.waits()).toMatchObject([{ body: { n: 1 }, refused: null }])
  })

  it('lets an undone entry go only where the server says that it was our server', async () => {
    const gone = (headers: Record<string, string>) => new Response(null, { status: 204, headers })
    await box.queue({ username: 'angler', method: 'DELETE', path: '/api/days/d/entries/1', body: null })
    server(gone({}))
    await box.flush('angler')
    expect(await box.waits()).toHaveLength(1)
    server(gone({ 'X-Request-ID': 'a1' }))
    await box.flush('angler')
    expect(await box.waits()).toEqual([])
  })

  it('sets aside what the server failed at five times, shows it, and sends the rest', async () => {
    await box.entry(1)
    await box.entry(2)
    for (let n = 0; n < 4; n += 1) {
      server(refused(500, 'server'))
      await box.flush('angler')
    }
    expect((await box.waits()).map(({ refused: why }) => why)).toEqual([null, null])
    const sent = server(refused(500, 'server'), ok())
    await box.flush('angler')
    expect(sent.map(({ body }) => body)).toEqual([{ n: 1 }, { n: 2 }])
    const rows = await box.waits()
    expect(rows).toMatchObject([{ body: { n: 1 }, failed: 5 }])
    expect(rows[0]?.refused).toContain('failed at this 5 times')
  })
})

describe('what the outbox keeps', () => {
  let box: Awaited<ReturnType<typeof opened>>
  beforeEach(async () => {
    box = await opened()
  })

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
