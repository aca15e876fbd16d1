import vue from '@vitejs/plugin-vue'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import components from 'unplugin-vue-components/vite'
import { defineConfig, type Plugin } from 'vite'

// The two fonts of every page are asked for at once, not when the style has been read.
const fontsFirst: Plugin = {
  name: 'fonts-first',
  transformIndexHtml: {
    order: 'post',
    handler: (_, { bundle }) =>
      Object.keys(bundle ?? {})
        .filter((name) => /-latin-wght-normal-.*\.woff2$/.test(name))
        .map((name) => ({
          tag: 'link',
          attrs: { rel: 'preload', as: 'font', type: 'font/woff2', href: `/${name}`, crossorigin: '' },
          injectTo: 'head-prepend' as const,
        })),
  },
}

export default defineConfig({
  plugins: [vue(), components({ resolvers: [ElementPlusResolver()], dirs: [], dts: false }), fontsFirst],
  // Nothing is inlined as a data: address, so that the content policy can stay strict.
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 700 },
  server: { proxy: { '/api': 'http://127.0.0.1:8420' } },
})
