/** The search and the practice day of the core, their very files, run by Python in this worker: no tap ever waits for it. */
/// <reference lib="webworker" />

/** What of Python is used here; its own types lean on those of another environment. */
interface Python {
  FS: { mkdirTree(path: string): void; writeFile(path: string, text: string): void }
  runPython(code: string): unknown
  pyimport(name: string): unknown
}

const SOURCES = import.meta.glob<string>(
  '../../../core/stillthread/{__init__,phrase,search/*,practice/{__init__,answer,debrief,game,scenario_levels,truth}}.py',
  { query: '?raw', import: 'default', eager: true },
)

export interface Question {
  id: number
  call: 'think' | 'play'
  /** What is long and the same all day: a search table, a game. Left out where it is the one sent before. */
  given?: string
  asked: string
}
export type Reply = { up: true } | { id: number; answer: string } | { id: number; failed: string }

declare const __PYTHON_AT__: string

type Call = (given: string, asked: string) => string

async function begin(): Promise<Record<Question['call'], Call>> {
  const { loadPyodide } = (await import(/* @vite-ignore */ `${__PYTHON_AT__}pyodide.mjs`)) as {
    loadPyodide(how: { indexURL: string }): Promise<Python>
  }
  const python = await loadPyodide({ indexURL: __PYTHON_AT__ })
  for (const [path, text] of Object.entries(SOURCES)) {
    const at = `/core/${path.slice(path.indexOf('stillthread'))}`
    python.FS.mkdirTree(at.slice(0, at.lastIndexOf('/')))
    python.FS.writeFile(at, text)
  }
  python.runPython('import sys; sys.path.insert(0, "/core")')
  return {
    think: (python.pyimport('stillthread.search.day') as { think_json: Call }).think_json,
    play: (python.pyimport('stillthread.practice.game') as { play_json: Call }).play_json,
  }
}

const say = (told: Reply) => self.postMessage(told)
const begun = begin()
begun.then(
  () => say({ up: true }),
  (error: unknown) => say({ id: 0, failed: String(error) }),
)

let given = ''
self.addEventListener('message', ({ data }: MessageEvent<Question>) => {
  void begun.then((calls) => {
    given = data.given ?? given
    try {
      say({ id: data.id, answer: calls[data.call](given, data.asked) })
    } catch (error) {
      say({ id: data.id, failed: String(error) })
    }
  })
})
