/** Python for the device: its files as they come, the core's sources, and a picture of both as they are once they run. */
import { createHash } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join, sep } from 'node:path'
import { gzipSync } from 'node:zlib'
import { loadPyodide } from 'pyodide'
import type { Plugin } from 'vite'

const CORE = join(import.meta.dirname, '../core')
/** What of the core the device runs. */
const ROOMS = ['trade', 'search', 'practice']
const FILES = ['__init__', 'phrase', 'sourced']
const PYTHON = dirname(createRequire(import.meta.url).resolve('pyodide/package.json'))
const { version } = JSON.parse(readFileSync(join(PYTHON, 'package.json'), 'utf8')) as { version: string }
/** Where Python lies: a name that changes with its version. */
export const PYTHON_AT = `assets/python-${version}/`
const SHIPPED = [
  'pyodide.mjs',
  'pyodide.asm.mjs',
  'pyodide.asm.wasm',
  'python_stdlib.zip',
  'pyodide-lock.json',
]

/** The core's own files, by their path. */
function sources(): Record<string, string> {
  const within = join(CORE, 'stillthread')
  const paths = [
    ...FILES.map((name) => join(within, `${name}.py`)),
    ...ROOMS.flatMap((room) =>
      readdirSync(join(within, room), { recursive: true, encoding: 'utf8' })
        .filter((name) => name.endsWith('.py'))
        .map((name) => join(within, room, name)),
    ),
  ]
  return Object.fromEntries(
    paths.map((path) => [path.slice(CORE.length + 1).replaceAll(sep, '/'), readFileSync(path, 'utf8')]),
  )
}

const CORE_ID = 'virtual:core'
/** What the worker writes where Python looks: `import core from 'virtual:core'`. */
export const core = (): Plugin => ({
  name: 'core',
  resolveId: (id) => (id === CORE_ID ? `\0${CORE_ID}` : null),
  load: (id) => (id === `\0${CORE_ID}` ? `export default ${JSON.stringify(sources())}` : null),
})

export interface Picture {
  fileName: string
  bytes: Uint8Array
}

/**
 * Start Python, read the core into it, and take its memory: a device that begins there is up in a tenth of the time.
 * The core is read into the picture, not run, so that nothing of chance or time is in it.
 */
export async function pictured(): Promise<Picture> {
  const python = await loadPyodide({ indexURL: PYTHON, _makeSnapshot: true })
  const files = sources()
  for (const [path, text] of Object.entries(files)) {
    python.FS.mkdirTree(`/core/${dirname(path)}`)
    python.FS.writeFile(`/core/${path}`, text)
  }
  python.runPython('import sys; sys.path.insert(0, "/core")')
  for (const name of ['search.thinker', 'search.when_nothing', 'practice.game'])
    python.pyimport(`stillthread.${name}`)
  const memory = (python as unknown as { makeMemorySnapshot(): Uint8Array }).makeMemorySnapshot()
  const told = createHash('sha256').update(version).update(JSON.stringify(files)).digest('hex').slice(0, 12)
  return { fileName: `${PYTHON_AT}started-${told}.snapshot`, bytes: gzipSync(memory, { level: 9 }) }
}

export const python = (picture: Picture | null): Plugin => ({
  name: 'python',
  generateBundle() {
    for (const name of SHIPPED)
      this.emitFile({ type: 'asset', fileName: PYTHON_AT + name, source: readFileSync(join(PYTHON, name)) })
    if (picture) this.emitFile({ type: 'asset', fileName: picture.fileName, source: picture.bytes })
  },
})
