import { expect, test } from './bench'

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true })

test('a phone shows one thing at a time, and nothing moves sideways', async ({ bench, page }) => {
  await page.goto('/')
  const still = () => page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)
  await expect(bench.strip('R3')).toBeVisible()
  await expect(bench.station).toBeHidden()
  expect(await still()).toBe(0)
  // A part that is taken fills the screen, with its main button in sight.
  await bench.strip('R6').tap()
  await expect(bench.station).toContainText('R6')
  await expect(bench.strip('R3')).toBeHidden()
  const main = await bench.station.locator('.foot .el-button--primary').boundingBox()
  expect(main?.height ?? 0).toBeGreaterThanOrEqual(40)
  expect((main?.y ?? 9999) + (main?.height ?? 0)).toBeLessThan(844)
  expect(await still()).toBe(0)
  await page.getByRole('button', { name: 'Tray', exact: true }).tap()
  await expect(bench.strip('R3')).toBeVisible()
})

for (const width of [390, 1280]) {
  test(`an empty workshop says what belongs in it, at ${width}`, async ({ bench, page }) => {
    await page.setViewportSize({ width, height: 800 })
    await page.route(/\/api\/tickets$/, (route) =>
      route.request().method() === 'GET' ? route.fulfill({ json: [] }) : route.fallback(),
    )
    await page.goto('/')
    const day = page.getByRole('region', { name: 'A clear bench' })
    await expect(day.getByRole('listitem')).toHaveCount(3)
    await expect(bench.station).toBeHidden()
    await day.getByRole('button', { name: 'Look at the schools' }).press('Enter')
    await expect(page.getByRole('region', { name: 'The workshop' })).toBeVisible()
    await page.keyboard.press('Escape')
    await day.getByRole('button', { name: 'Check in the first set' }).click()
    await expect(page.getByRole('dialog')).toBeVisible()
  })
}
