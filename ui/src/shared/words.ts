import type { Schemas } from '../api/client'

// The words of the craft, as people say them.
type Surface = Schemas['BlankForm']['surface']

export const surfaces: Record<Surface, string> = {
  'wood-bare': 'bare wood',
  'wood-painted': 'painted wood',
  'board-painted': 'painted board',
  canvas: 'canvas',
  stone: 'stone or slate',
  'ceramic-unglazed': 'unglazed ceramic',
  'ceramic-glazed': 'glazed ceramic',
  glass: 'glass',
  'glass-painted': 'painted glass',
  metal: 'bare metal',
  'metal-coated': 'coated metal',
  plastic: 'smooth plastic',
  'fabric-cotton': 'cotton',
  'fabric-polyester': 'polyester',
  candle: 'candle wax',
  'stone-painted': 'painted stone',
  'coated-board': 'coated board',
  'mug-coated': 'coated mug',
}
export const surfaceKeys = Object.keys(surfaces) as Surface[]
export const surfaceWords = (key: string) => surfaces[key as Surface] ?? key

export const printers: Record<string, string> = {
  toner: 'toner (laser or copier)',
  inkjet: 'inkjet',
  sublimation: 'sublimation ink',
}
export const carriers: Record<string, string> = {
  paper: 'paper',
  tissue: 'tissue',
  'decal-clear': 'clear decal film',
  'decal-white': 'white decal film',
  'transfer-paper': 'transfer paper',
}
export const rights: Record<string, string> = {
  own: 'my own',
  permission: 'with permission',
  'out-of-copyright': 'out of copyright',
  customer: 'the customer’s own photo',
  unknown: 'nobody has said',
}
export const withs: Record<string, string> = {
  gel: 'gel medium',
  glue: 'glue',
  'varnish-water': 'water-based varnish',
  'varnish-oil': 'oil-based varnish',
  clearcoat: 'satin clear coat',
  'quick-gel': 'quick transfer gel',
  cream: 'transfer cream',
  lotion: 'transfer lotion',
  photo: 'opaque photo medium',
  same: 'the medium itself',
  'spray-acrylic': 'clear spray',
  resin: 'resin',
}
export const withOf: Record<string, string[]> = {
  lay: ['gel', 'glue', 'varnish-water', 'varnish-oil', 'clearcoat', 'quick-gel', 'cream', 'lotion', 'photo'],
  seal: ['same', 'glue', 'varnish-water', 'varnish-oil', 'spray-acrylic', 'gel', 'resin'],
}
export const restKinds: Record<string, string> = { dry: 'dry', cure: 'cure', soak: 'soak', cool: 'cool' }
export const stages: Record<string, string> = {
  prepare: 'Prepare',
  print: 'Print',
  lay: 'Lay',
  remove: 'Clear and look',
  seal: 'Seal',
  finish: 'Finish',
}
// work is what people leave to others, or like to do at their times.
export const work = {
  prepare: 'preparing blanks',
  print: 'printing and trimming',
  lay: 'laying and pressing',
  remove: 'clearing paper',
  seal: 'sealing and staining',
  finish: 'finishing and packing',
  spray: 'spraying',
}
export const places: Record<string, string> = {
  press: 'the press',
  'hot-air': 'the hot air',
  'spray-place': 'the spray place',
}
export const sheens = ['matt', 'satin', 'gloss'] as const

// lastPart is what tells a step from others of its kind: "second round" of "Clear the paper, second round".
export const lastPart = (stepName: string) => stepName.toLowerCase().split(', ').at(-1)!
