// Renders the demo's drawings (internal/demo/pictures/*.svg) to the pictures that the
// demo puts in: PNG for what is drawn flat, JPEG for what is to look like a photo.
//   node pictures.mjs
import { readdir, readFile } from 'node:fs/promises'
import { chromium } from '@playwright/test'

const folder = new URL('../internal/demo/pictures/', import.meta.url)
const photos = new Set(['dusk', 'crew1', 'crew2', 'crew3', 'crew4'])
// A scan that is as coarse as old ones are.
const coarse = { mooring: 990 }
// What is printed large is drawn large.
const drawn = { ferry: 3100, bunting: 2700, oars: 2400, regatta: 1400, lantern: 1200 }
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox', '--disable-background-networking', '--disable-component-update', '--disable-sync'] })
for (const name of (await readdir(folder)).filter((n) => n.endsWith('.svg'))) {
  const svg = await readFile(new URL(name, folder), 'utf8')
  const [, w, h] = /viewBox="0 0 (\d+) (\d+)"/.exec(svg).map(Number)
  const base = name.replace('.svg', '')
  const width = coarse[base] ?? (photos.has(base) ? (base === 'dusk' ? 2400 : 1700) : (drawn[base] ?? 1200))
  const height = Math.round((width * h) / w)
  const page = await browser.newPage({ viewport: { width, height } })
  await page.setContent(`<style>html,body{margin:0}svg{display:block;width:${width}px;height:${height}px}</style>${svg}`)
  const photo = photos.has(base) || base in coarse
  const path = new URL(`${base}.${photo ? 'jpg' : 'png'}`, folder).pathname
  await page.screenshot(photo ? { path, type: 'jpeg', quality: 85 } : { path, type: 'png' })
  await page.close()
}
await browser.close()
