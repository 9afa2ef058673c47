/** The search and the practice day of the core, their very files, run by Python in this worker: no tap ever waits for it. */
/// <reference lib="webworker" />
import { expose } from 'comlink'

/** What of Python is used here; its own types lean on those of another environment. */
interface Pyodide {
  FS: { mkdirTree(path: string): void; writeFile(path: string, text: string): void }
  runPython(code: string): unknown
  pyimport(name: string): unknown
}

const SOURCES = import.meta.glob<string>(
  '../../../core/stillthread/{__init__,phrase,sourced,trade/*,search/*,practice/{__init__,answer,debrief,game,scenario_levels,truth}}.py',
  { query: '?raw', import: 'default', eager: true },
)

declare const __PYTHON_AT__: string

/** What the core is asked: what a log so far means, what may be changed by hand, or what comes next on a practice day. */
export type Call = 'think' | 'own' | 'play'

type Answer = (given: string, asked: string) => string

async function begin(): Promise<Record<Call, Answer>> {
  const { loadPyodide } = (await import(/* @vite-ignore */ `${__PYTHON_AT__}pyodide.mjs`)) as {
    loadPyodide(how: { indexURL: string }): Promise<Pyodide>
  }
  const python = await loadPyodide({ indexURL: __PYTHON_AT__ })
  for (const [path, text] of Object.entries(SOURCES)) {
    const at = `/core/${path.slice(path.indexOf('stillthread'))}`
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
