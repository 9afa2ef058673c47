import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import type { Plugin } from 'vite'
import { defineConfig } from 'vitest/config'
import { VitePWA } from 'vite-plugin-pwa'

// The whole page is kept on the device, so that it opens at the water with no signal. A new version waits until the angler
// takes it: a reload of its own could lose what is being typed.
const offline = VitePWA({
  registerType: 'prompt',
  injectRegister: false,
  manifest: {
    name: 'Still Thread',
    short_name: 'Still Thread',
    description: 'Where trout feed in still water, and what your line really does.',
    start_url: '/read',
    display: 'standalone',
    background_color: '#f3f6f1',
    theme_color: '#f3f6f1',
    icons: [{ src: '/mark.svg', sizes: 'any', type: 'image/svg+xml' }],
  },
  workbox: {
    // Python is kept once it has been asked for.
    globIgnores: ['assets/python-*/**'],
    runtimeCaching: [
      { urlPattern: /\/assets\/python-/, handler: 'CacheFirst', options: { cacheName: 'python' } },
    ],
    globPatterns: ['**/*.{html,js,mjs,css,svg,woff2}'],
    navigateFallback: '/index.html',
    navigateFallbackDenylist: [/^\/api\//],
    clientsClaim: true,
    cleanupOutdatedCaches: true,
  },
})

// Python for the search on the water: its files as they come, under a name that changes with their version.
const PYTHON = dirname(createRequire(import.meta.url).resolve('pyodide/package.json'))
const { version } = JSON.parse(readFileSync(join(PYTHON, 'package.json'), 'utf8')) as { version: string }
const PYTHON_AT = `assets/python-${version}/`
const python: Plugin = {
  name: 'python',
  generateBundle() {
    for (const name of [
      'pyodide.mjs',
      'pyodide.asm.mjs',
      'pyodide.asm.wasm',
      'python_stdlib.zip',
      'pyodide-lock.json',
    ])
      this.emitFile({ type: 'asset', fileName: PYTHON_AT + name, source: readFileSync(join(PYTHON, name)) })
  },
}

export default defineConfig({
  plugins: [react(), tailwindcss(), python, offline],
  define: { __PYTHON_AT__: JSON.stringify(`/${PYTHON_AT}`) },
  worker: { format: 'es' },
  build: { target: 'es2022', assetsInlineLimit: 0, modulePreload: { polyfill: false } },
  server: { proxy: { '/api': 'http://127.0.0.1:8000' } },
  test: { include: ['src/**/*.test.ts'], environment: 'node', unstubGlobals: true },
})
