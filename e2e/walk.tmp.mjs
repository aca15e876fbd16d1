import { chromium } from '@playwright/test'
import { choose, setDay } from './fields.mjs'
const [script, w = '1280', h = '800'] = process.argv.slice(2)
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox', '--disable-background-networking', '--disable-component-update', '--disable-sync'] })
const page = await browser.newPage({ viewport: { width: Number(w), height: Number(h) } })
page.on('console', (m) => ['error', 'warning'].includes(m.type()) && console.log('console', m.text()))
page.on('response', (r) => r.status() >= 400 && console.log(r.status(), r.url()))
import { mkdirSync } from 'node:fs'
mkdirSync('/tmp/shots', { recursive: true })
const url = 'http://127.0.0.1:8839'
const shot = (name, o = {}) => page.screenshot({ path: `/tmp/shots/${name}.png`, animations: 'disabled', ...o })
try { await (await import(script)).default(page, { url, shot, choose, setDay, browser }) } finally { await browser.close() }
