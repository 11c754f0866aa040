import react from '@vitejs/plugin-react'
import tailwindcss from '@tailwindcss/vite'
import { VitePWA } from 'vite-plugin-pwa'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    VitePWA({
      strategies: 'injectManifest',
      srcDir: 'sw',
      filename: 'sw.ts',
      injectRegister: null,
      injectManifest: {
        globPatterns: ['assets/*.{js,css,woff2}', 'icon.svg', 'recorder-worklet.js'],
        globIgnores: ['assets/docs-*', 'assets/*latin-ext*'],
      },
      manifest: {
        name: 'Bright Chalk',
        short_name: 'Bright Chalk',
        description: 'The phonics team’s library: cards, sounds, lessons.',
        lang: 'en-GB',
        start_url: '/',
        display: 'standalone',
        background_color: '#fbf8f1',
        theme_color: '#20343a',
        icons: [
          { src: '/icon-192.png', sizes: '192x192', type: 'image/png' },
          { src: '/icon-512.png', sizes: '512x512', type: 'image/png', purpose: 'any maskable' },
          { src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' },
        ],
      },
    }),
  ],
  build: {
    outDir: '../internal/webui/dist',
    emptyOutDir: true,
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    chunkSizeWarningLimit: 2000, // of the page about the calls
    rollupOptions: { input: ['index.html', 'docs.html'] },
  },
  server: { proxy: { '/api': process.env.BRIGHT_CHALK_API ?? 'http://127.0.0.1:8484' } },
  // Tests that need a page say so in their first line; making one takes half a second for each file.
  // Tests put away what they make; a world of its own for each file takes five times as long.
  test: { environment: 'node', pool: 'threads', isolate: false },
})
