import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'

export default defineConfig({
  base: '/static/',
  plugins: [vue()],
  build: {
    manifest: 'manifest.json',
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 1200,
    rollupOptions: { input: 'src/main.ts' },
  },
})
