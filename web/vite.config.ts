/// <reference types="vitest/config" />
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  base: '/app/',
  plugins: [react()],
  build: { outDir: '../public/app', emptyOutDir: true, target: 'es2022', assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  server: { proxy: { '/api': 'http://127.0.0.1:8080' } },
  // One world for all files: what each loads, and the page it loads it into, took two fifths of the time. Each cleans up after itself.
  test: { isolate: false, environment: 'jsdom', globals: false, setupFiles: ['src/test-setup.ts'], testTimeout: 90_000 },
})
