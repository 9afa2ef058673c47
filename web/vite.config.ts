import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'
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
    globPatterns: ['**/*.{html,js,mjs,css,svg,woff2}'],
    navigateFallback: '/index.html',
    navigateFallbackDenylist: [/^\/api\//],
    clientsClaim: true,
    cleanupOutdatedCaches: true,
  },
})

export default defineConfig({
  plugins: [react(), tailwindcss(), offline],
  build: { target: 'es2022', assetsInlineLimit: 0, modulePreload: { polyfill: false } },
  server: { proxy: { '/api': 'http://127.0.0.1:8000' } },
})
