import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'

// While developing, the page and the API come from Django behind this server, so that there is one address.
const behind = `http://127.0.0.1:${process.env['VELMOT_BEHIND'] ?? 8643}`

export default defineConfig({
  base: '/static/',
  plugins: [vue()],
  server: { proxy: { '^/(?!static/)': behind } },
  build: {
    manifest: 'manifest.json',
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 1200,
    rollupOptions: {
      // The second one is the page's sound without a loudspeaker, for whoever holds it beside the core's.
      input: ['src/main.ts', 'src/sound/offline.ts'],
      preserveEntrySignatures: 'exports-only',
    },
  },
})
