/** The search and the practice day of the core, their very files, run by Python in this worker: no tap ever waits for it. */
/// <reference lib="webworker" />
import { expose } from 'comlink'
import core from 'virtual:core'

/** What of Python is used here; its own types lean on those of another environment. */
interface Pyodide {
  FS: { mkdirTree(path: string): void; writeFile(path: string, text: string): void }
  runPython(code: string): unknown
  pyimport(name: string): unknown
}

declare const __PYTHON_AT__: string
/** Python's memory with the core read into it, packed; null where the page is being worked on. */
declare const __PYTHON_STARTED__: string | null

/** What the core is asked: what a log so far means, what may be changed by hand, what would be proposed if nothing came, or what
 * comes next on a practice day. */
export type Call = 'think' | 'own' | 'ahead' | 'play'

type Answer = (given: string, asked: string) => string

type Load = (how: { indexURL: string; _loadSnapshot?: ArrayBuffer }) => Promise<Pyodide>

/** Start Python from the picture of it; where there is none to be had, from nothing, which takes ten times as long. */
async function started(): Promise<Pyodide> {
  const { loadPyodide } = (await import(/* @vite-ignore */ `${__PYTHON_AT__}pyodide.mjs`)) as {
    loadPyodide: Load
  }
  const how = { indexURL: __PYTHON_AT__ }
  if (__PYTHON_STARTED__ !== null)
    try {
      return await loadPyodide({ ...how, _loadSnapshot: await unpacked(__PYTHON_STARTED__) })
    } catch (error) {
      console.warn('Python starts from nothing', error)
    }
  return loadPyodide(how)
}

async function unpacked(at: string): Promise<ArrayBuffer> {
  const { ok, body } = await fetch(at)
  if (!ok || !body) throw new Error(`nothing at ${at}`)
  return new Response(body.pipeThrough(new DecompressionStream('gzip'))).arrayBuffer()
}

async function begin(): Promise<Record<Call, Answer>> {
  const python = await started()
  for (const [path, text] of Object.entries(core)) {
    const at = `/core/${path}`
    python.FS.mkdirTree(at.slice(0, at.lastIndexOf('/')))
    python.FS.writeFile(at, text)
  }
  python.runPython('import sys; sys.path.insert(0, "/core")')
  const thinker = python.pyimport('stillthread.search.thinker') as Record<
    'think_json' | 'own_changes_json',
    Answer
  >
  return {
    think: thinker.think_json,
    own: thinker.own_changes_json,
    ahead: (python.pyimport('stillthread.search.when_nothing') as { when_nothing_json: Answer })
      .when_nothing_json,
    play: (python.pyimport('stillthread.practice.game') as { play_json: Answer }).play_json,
  }
}

const begun = begin()
const given: Partial<Record<Call, string>> = {}

const python = {
  /** Resolves once Python is up; rejects where it cannot be. */
  async up(): Promise<true> {
    await begun
    return true
  },
  /**
   * Ask one of the calls, text in and text out. What is long and the same all day - a search table, a game - is `long`, and left
   * out where it is the one that was sent before.
   */
  async ask(call: Call, long: string | null, asked: string): Promise<string> {
    const calls = await begun
    given[call] = long ?? given[call] ?? ''
    return calls[call](given[call], asked)
  },
}

export type Python = typeof python
expose(python)
