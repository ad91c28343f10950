import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [vue()],
  build: {
    target: 'es2022',
    // Nothing is put into pages as data: their policy lets files of our own through alone.
    assetsInlineLimit: 0,
    rollupOptions: {
      input: {
        index: 'index.html',
        output: 'output.html',
        overlays: 'overlays.html',
        bench: 'bench.html',
        rig: 'rig.html',
      },
    },
  },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:8420', ws: true } } },
})
