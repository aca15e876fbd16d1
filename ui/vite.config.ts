import vue from '@vitejs/plugin-vue'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import components from 'unplugin-vue-components/vite'
import { defineConfig, type Plugin } from 'vite'
import { early } from './early'

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

// A font that comes late would move what is being read: it is for the next page then.
const fontsLaterNever: Plugin = {
  name: 'fonts-later-never',
  enforce: 'pre',
  transform: (code, id) =>
    /@fontsource-variable\/.*\.css/.test(id)
      ? code.replaceAll('font-display: swap', 'font-display: optional')
      : undefined,
}

// The library's sheets go under our own, in whatever order the pages bring them.
const underOurs: Plugin = {
  name: 'under-ours',
  enforce: 'pre',
  transform: (code, id) =>
    /element-plus\/theme-chalk\/.*\.css/.test(id) ? `@layer element{${code.replace(/@charset[^;]+;/, '')}}` : undefined,
}

// A slow line pays for each file it has to ask for: what every page begins with comes
// in one piece, and so do the fields, and the small parts that most pages share.
const library = (parts: string) => `element-plus/(es|theme-chalk)/(src/)?(components/)?(${parts})[./]`
const shared = (names: string) => `/src/shared/(${names})\\.`
const groups = [
  { name: 'frame', tags: ['$initial' as const], priority: 4 },
  {
    name: 'parts',
    test: new RegExp(
      `${library('alert|empty|skeleton|skeleton-item')}|${shared('EmptyNote|WaitingRows|TroubleNote|PageHead|GroupHead|ThingRow|ActRow|RecipeBars|PieceStrip|InTurn')}`,
    ),
    priority: 3,
  },
  // the pictures and marks of products
  { name: 'marks', test: /\/src\/products\/(CostBar|LevelMark|ProductPicture)\./, priority: 2 },
  {
    name: 'fields',
    test: new RegExp(
      `${library('input|checkbox|checkbox-group|radio|radio-group|input-number|switch|collapse|collapse-item|collapse-transition')}|${shared('TextField|SwitchBox|PickField|OfferField|CountField|inTurn|TickBox|FieldRow|FieldPair|FoldBox|ChoiceField|HourField|DeviceSettings|ClashNote|SaveTrouble|FootedForm|ShortRests|draft|choices')}|/src/(products/forms|stores/(label|LabelFields|words))\\.`,
    ),
    priority: 2,
  },
  // what opens: lists to pick from and offers
  {
    name: 'lists',
    test: new RegExp(
      library('select|option|option-group|tag|scrollbar|popper|tooltip|focus-trap|autocomplete') +
        `|@popperjs|${shared('PickList|OfferList|said')}`,
    ),
    priority: 1,
  },
]

export default defineConfig({
  plugins: [
    underOurs,
    vue(),
    components({ resolvers: [ElementPlusResolver()], dirs: [], dts: false }),
    fontsFirst,
    fontsLaterNever,
    early,
  ],
  // Nothing is inlined as a data: address, so that the content policy can stay strict.
  build: {
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 700,
    rolldownOptions: { output: { codeSplitting: { groups } } },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8420' } },
})
