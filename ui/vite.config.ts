import { readFileSync } from 'node:fs'
import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vitest/config'

// Rules are tested without a page, and parts of the screens with one that all their tests share: making it is the slow part.
const rules = { name: 'rules', include: ['src/**/*.test.ts'], environment: 'node' }
const page = {
  name: 'page',
  include: ['src/**/*.test.tsx'],
  environment: 'jsdom',
  setupFiles: ['src/testing/setup.ts'],
  unstubGlobals: true,
  isolate: false,
  testTimeout: 60_000,
}

const version = readFileSync(new URL('../VERSION', import.meta.url), 'utf8').trim()

export default defineConfig({
  define: { __VERSION__: JSON.stringify(version) },
  plugins: [react(), tailwindcss()],
  // While one works on the screens (bin/dev): everything but them is the server's.
  server: {
    host: '127.0.0.1',
    proxy: Object.fromEntries(
      ['/api', '/auth', '/c/', '/u/', '/o/', '/p/'].map((path) => [
        path,
        { target: `http://127.0.0.1:${process.env.PORT ?? 4780}`, changeOrigin: true },
      ]),
    ),
  },
  // Inlined files would need a looser content security policy.
  build: { assetsInlineLimit: 0, modulePreload: { polyfill: false } },
  test: {
    projects: [
      { extends: true, test: rules },
      { extends: true, test: page },
    ],
  },
})
