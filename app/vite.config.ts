import { fileURLToPath } from 'node:url'
import tailwind from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

const apiPort = process.env['MARIONETTE_PORT'] ?? '4600'

export default defineConfig({
  root: fileURLToPath(new URL('.', import.meta.url)),
  plugins: [react(), tailwind()],
  server: {
    host: '127.0.0.1',
    port: Number(process.env['MARIONETTE_DEV_PORT'] ?? 4601),
    proxy: { '/api': { target: `http://127.0.0.1:${apiPort}` } },
  },
  worker: { format: 'es' },
  build: { target: 'es2022', chunkSizeWarningLimit: 900, assetsInlineLimit: 0 },
})
