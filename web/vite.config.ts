import react from '@vitejs/plugin-react'
import tailwindcss from '@tailwindcss/vite'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: {
    outDir: '../internal/webui/dist',
    emptyOutDir: true,
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    chunkSizeWarningLimit: 2000, // of the page about the calls
    rollupOptions: { input: ['index.html', 'docs.html'] },
  },
  server: { proxy: { '/api': process.env.BRIGHT_CHALK_API ?? 'http://127.0.0.1:8484' } },
  test: { environment: 'happy-dom' },
})
