import react from '@vitejs/plugin-react'
import tailwindcss from '@tailwindcss/vite'
import { defineConfig } from 'vite'

/** The stage of the carry pack: one script and one style, which the server writes into the file. */
export default defineConfig({
  plugins: [react(), tailwindcss()],
  publicDir: false,
  define: { 'process.env.NODE_ENV': '"production"' },
  build: {
    outDir: '../internal/webui/dist/carry',
    emptyOutDir: true,
    cssCodeSplit: false,
    lib: {
      entry: 'carry/main.tsx',
      formats: ['iife'],
      name: 'carry',
      fileName: () => 'carry.js',
      cssFileName: 'carry',
    },
  },
})
