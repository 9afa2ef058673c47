import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig, type ViteUserConfig } from 'vitest/config'
import { VitePWA } from 'vite-plugin-pwa'
import { core, pictured, python, PYTHON_AT } from './python'

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
      {
        urlPattern: /\/assets\/python-/,
        handler: 'CacheFirst',
        // What an older version started from goes in time.
        options: { cacheName: 'python', expiration: { maxEntries: 12 } },
      },
    ],
    globPatterns: ['**/*.{html,js,mjs,css,svg,woff2}'],
    navigateFallback: '/index.html',
    navigateFallbackDenylist: [/^\/api\//],
    clientsClaim: true,
    cleanupOutdatedCaches: true,
  },
})

export default defineConfig(async ({ command }): Promise<ViteUserConfig> => {
  const picture = command === 'build' ? await pictured() : null
  return {
    plugins: [react(), tailwindcss(), python(picture), offline],
    define: {
      __PYTHON_AT__: JSON.stringify(`/${PYTHON_AT}`),
      __PYTHON_STARTED__: JSON.stringify(picture ? `/${picture.fileName}` : null),
    },
    worker: { format: 'es', plugins: () => [core()] },
    build: { target: 'es2022', assetsInlineLimit: 0, modulePreload: { polyfill: false } },
    server: { proxy: { '/api': 'http://127.0.0.1:8000' } },
    test: { include: ['src/**/*.test.ts'], environment: 'node', unstubGlobals: true },
  }
})
