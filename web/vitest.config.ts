import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import Components from 'unplugin-vue-components/vite'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import { defineConfig } from 'vitest/config'

/** Run by the Cargo test `composables`. */
export default defineConfig({
  plugins: [
    vue(),
    Components({ dirs: [], dts: false, resolvers: [ElementPlusResolver({ importStyle: false })] }),
  ],
  // A busy machine is no fault of what is tested.
  test: {
    environment: 'happy-dom',
    include: ['tests/*.test.ts'],
    reporters: ['default'],
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
})
