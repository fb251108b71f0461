import react from '@vitejs/plugin-react'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [react()],
  // The service puts a fresh nonce in place of this mark in every page that it sends.
  html: { cspNonce: '__NONCE__' },
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 700 },
  server: { proxy: { '/api': 'http://127.0.0.1:7420' } },
  test: { environment: 'jsdom', include: ['src/**/*.test.{ts,tsx}'] },
})
