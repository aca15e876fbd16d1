// usage: node walk.tmp.mjs script.mjs  (exports default async (page, ctx))
import { chromium } from '@playwright/test'
import * as fields from './fields.mjs'
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox'] })
const [file, w = '1280', h = '800'] = process.argv.slice(2)
const page = await browser.newPage({ viewport: { width: +w, height: +h } })
page.setDefaultTimeout(15000)
page.on('console', (m) => ['error', 'warning'].includes(m.type()) && console.log('console:', m.text()))
const shot = (name, full = false) => page.screenshot({ path: `/tmp/shots/${name}.png`, fullPage: full })
const { default: run } = await import(file)
try { await run(page, { url: 'http://127.0.0.1:8439', shot, ...fields }) } catch (e) { console.log(String(e).slice(0, 1500)); await shot('trouble') }
await browser.close()
