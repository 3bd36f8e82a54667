import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [react(), tailwindcss()],
  // Inlined files would need a looser content security policy.
  build: { assetsInlineLimit: 0, modulePreload: { polyfill: false } },
})
