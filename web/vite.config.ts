import { fileURLToPath } from 'node:url'
import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { compression } from 'vite-plugin-compression2'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  // Brotli at its best level is made once here, and sent as it is; what a browser without it gets is made as it asks.
  plugins: [
    react(),
    tailwindcss(),
    compression({ algorithms: ['brotliCompress'], include: /\.(js|css|svg|html|webmanifest)$/ }),
  ],
  resolve: { alias: { '@': fileURLToPath(new URL('src', import.meta.url)) } },
  // Nothing inline: the content security policy allows files of our own only.
  build: { assetsInlineLimit: 0, modulePreload: { polyfill: false }, chunkSizeWarningLimit: 700 },
  server: { proxy: { '/api': 'http://127.0.0.1:8080' } },
  test: { include: ['src/**/*.test.{ts,tsx}'] },
})
