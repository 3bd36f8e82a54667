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

export default defineConfig({
  plugins: [react(), tailwindcss()],
  // Inlined files would need a looser content security policy.
  build: { assetsInlineLimit: 0, modulePreload: { polyfill: false } },
  test: {
    projects: [
      { extends: true, test: rules },
      { extends: true, test: page },
    ],
  },
})
