import react from '@vitejs/plugin-react'
import { VitePWA } from 'vite-plugin-pwa'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [
    react(),
    VitePWA({
      strategies: 'injectManifest',
      srcDir: 'src/away',
      filename: 'sw.ts',
      injectRegister: false,
      injectManifest: { globPatterns: ['**/*.{js,css,html,woff2,svg,png}'] },
      manifest: {
        name: 'Revtal',
        short_name: 'Revtal',
        description: 'Work orders of a repair bench',
        start_url: '/',
        display: 'standalone',
        background_color: '#f5f2ea',
        theme_color: '#1e5b57',
        icons: [
          { src: '/mark-192.png', sizes: '192x192', type: 'image/png' },
          { src: '/mark-512.png', sizes: '512x512', type: 'image/png', purpose: 'any maskable' },
          { src: '/mark.svg', sizes: 'any', type: 'image/svg+xml' },
        ],
      },
    }),
  ],
  // The service puts a fresh nonce in place of this mark in every page that it sends.
  html: { cspNonce: '__NONCE__' },
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 700 },
  server: { proxy: { '/api': 'http://127.0.0.1:7420' } },
  test: { environment: 'jsdom', include: ['src/**/*.test.{ts,tsx}'] },
})
