import { expect, test } from './bench'

/** The pictures in docs/screenshots, made from the demo data: `make screenshots`. */
const folder = '../docs/screenshots'

test('pictures of the bench', async ({ bench, page }) => {
  test.setTimeout(180_000)
  const shot = async (name: string) => {
    await page.waitForTimeout(400)
    if (name !== 'bench' && name !== 'measure') {
      await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
    }
    await page.screenshot({ path: `${folder}/${name}.png` })
  }
  const open = async (ticket: RegExp, part: string, step: string) => {
    await page.getByRole('button', { name: ticket }).click()
    await bench.strip(part).click()
    await page.keyboard.press('Escape')
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
    await page.keyboard.press(step)
    await page.mouse.move(0, 0)
  }
  await page.goto('/')
  await expect(bench.strip('R3')).toBeVisible()
  await bench.strip('R12').click()
  await page.keyboard.press('3')
  await page.keyboard.press('/')
  await page.keyboard.type('R20 = 118.6 lifted')
  await expect(bench.understood).toContainText('measures')
  await shot('bench')
  await bench.line.fill('')
  await bench.line.press('Escape')

  await bench.strip('R6').click()
  await page.keyboard.press('1')
  await shot('read')
  await page.keyboard.press('r')
  const reader = page.getByRole('region', { name: 'Reader' })
  await reader.getByLabel('type what is printed, or click the part').fill('brown red brown silver')
  await reader.getByLabel('measured, if you have it').fill('15.4k')
  await expect(reader).toContainText('12 kΩ')
  await shot('reader')
  await reader.getByLabel('measured, if you have it').fill('')
  await reader.getByRole('button', { name: 'mica, 6', exact: true }).click()
  for (const key of ['Delete', 'Delete', 'Delete', 'Delete', '9', '3', '3', '1', 's', '3']) await page.keyboard.press(key)
  await expect(reader).toContainText('330 pF')
  await shot('reader-mica')
  await reader.getByRole('button', { name: 'Bench cards' }).click()
  await page.getByRole('button', { name: 'ceramic dots and bands' }).click()
  await expect(page.getByRole('row', { name: /violet/ })).toContainText('N750')
  await shot('bench-card')
  await open(/Corvane Sounder 3/, 'R10', '1')
  await shot('disagreement')
  await bench.strip('R7').click()
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
  await page.keyboard.press('2')
  await shot('measure')
  await open(/Saltmere Beacon/, 'R10', '3')
  await shot('judge-straddling')
  await open(/Corvane Sounder 3/, 'R5', '5')
  await shot('prove')
  await page.goto('/')
  await bench.strip('R3').click()
  await page.keyboard.press('4')
  await shot('fit')

  await page.getByRole('button', { name: 'Day' }).click()
  await page.keyboard.press('3')
  await shot('day')
  await page.getByRole('button', { name: 'Night' }).click()
  await page.setViewportSize({ width: 820, height: 1180 })
  await shot('tablet')
})
