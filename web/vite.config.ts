import vue from '@vitejs/plugin-vue'
import { readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import Components from 'unplugin-vue-components/vite'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import { defineConfig, type Plugin } from 'vite'

/** Compresses once, as far as it goes, what would otherwise be compressed for every visitor. */
function packed(): Plugin {
  return {
    name: 'packed',
    apply: 'build',
    writeBundle({ dir = 'dist' }) {
      for (const name of readdirSync(dir, { recursive: true, encoding: 'utf8' })) {
        const file = join(dir, name)
        if (!/\.(js|css|html|svg)$/.test(name) || statSync(file).size < 1000) continue
        writeFileSync(`${file}.gz`, gzipSync(readFileSync(file), { level: 9 }))
      }
    },
  }
}

export default defineConfig({
  plugins: [
    vue(),
    Components({ dirs: [], dts: 'components.d.ts', resolvers: [ElementPlusResolver()] }),
    packed(),
  ],
  build: { target: 'es2022', assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:8750', changeOrigin: true } } },
})
