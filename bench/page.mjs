// Opens the large ticket in the browser and takes readings there; prints for how long the page was blocked at most.
import { createRequire } from 'node:module'

const require = createRequire(new URL('../e2e/package.json', import.meta.url))
const { chromium } = require('@playwright/test')
const url = process.argv[2]
const tickets = await (await fetch(`${url}/api/tickets`)).json()
const large = tickets.find((t) => t.name === 'large')
const browser = await chromium.launch({ executablePath: process.env.OWL_CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox'] })
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.addInitScript(() => {
  window.blocked = []
  new PerformanceObserver((list) => window.blocked.push(...list.getEntries().map((e) => e.duration))).observe({ type: 'longtask' })
})
const longest = async (what) => {
  const all = await page.evaluate(() => window.blocked.splice(0))
  console.log(`${what}: ${all.length} times blocked for more than 50 ms, at most ${Math.max(0, ...all).toFixed(0)} ms`)
}
await page.goto(`${url}/${large.id}`)
await page.getByRole('region', { name: 'Parts on the tray' }).locator('.strip').nth(399).waitFor({ state: 'attached' })
await page.waitForTimeout(1500)
await longest('opening 400 parts')
for (let i = 0; i < 12; i++) {
  await page.keyboard.press('=')
  await page.keyboard.type(`4${i}.3k lifted`)
  await page.keyboard.press('Enter')
  await page.waitForTimeout(700)
}
await longest('twelve readings by the owl line')
for (let i = 0; i < 12; i++) {
  await page.keyboard.press('Escape')
  await page.keyboard.press('ArrowDown')
  await page.waitForTimeout(300)
}
await longest('twelve parts onward')
await browser.close()
