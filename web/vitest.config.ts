import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'
import vue from '@vitejs/plugin-vue'

/** Run by the Cargo test `composables`. */
export default defineConfig({
  plugins: [vue()],
  test: { environment: 'happy-dom', include: ['tests/*.test.ts'], reporters: ['default'] },
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
})
