import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [react(), tailwindcss()],
  // Inlined files would need a looser content security policy.
  // Rules need no page around them, and run at once without one.
  test: {
    projects: [
      { extends: true, test: { name: 'rules', include: ['src/**/*.test.ts'], environment: 'node' } },
      {
        extends: true,
        test: { name: 'page', include: ['src/**/*.test.tsx'], environment: 'jsdom', setupFiles: ['src/testing/setup.ts'], unstubGlobals: true, testTimeout: 60_000 },
      },
    ],
  },
  build: { assetsInlineLimit: 0, modulePreload: { polyfill: false } },
})
