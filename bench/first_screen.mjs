// How long an empty browser waits until the first screen can be used, and how much it fetches for that. Prints, asserts nothing.
import { createRequire } from 'node:module'

const require = createRequire(new URL('../e2e/package.json', import.meta.url))
const { chromium } = require('@playwright/test')
const url = process.argv[2]
const took = []
let fetched = {}
for (let i = 0; i < 7; i++) {
  const browser = await chromium.launch({ executablePath: process.env.OWL_CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox'] })
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  fetched = {}
  const devtools = await page.context().newCDPSession(page)
  await devtools.send('Network.enable')
  const of = {}
  devtools.on('Network.responseReceived', (e) => (of[e.requestId] = e.type))
  devtools.on('Network.loadingFinished', (e) => (fetched[of[e.requestId]] = (fetched[of[e.requestId]] ?? 0) + e.encodedDataLength))
  const from = performance.now()
  await page.goto(url, { waitUntil: 'commit' })
  const line = page.getByRole('textbox').last()
  await line.waitFor()
  await page.getByRole('button', { name: /ticket/i }).first().waitFor()
  took.push(performance.now() - from)
  // What was fetched by then; the tools follow while nobody waits for them.
  fetched = { ...fetched }
  await browser.close()
}
took.sort((a, b) => a - b)
const kb = (type) => ((fetched[type] ?? 0) / 1000).toFixed(0)
console.log(`usable after ${took[3].toFixed(0)} ms, the slowest of seven ${took[6].toFixed(0)} ms (aim: 1 s)`)
console.log(`script ${kb('Script')} kB, style ${kb('Stylesheet')} kB, fonts ${kb('Font')} kB, compressed (aim for script and style: 250)`)
