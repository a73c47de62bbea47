import { expect, test } from './bench'
test('look', async ({ bench, page }) => {
  test.setTimeout(120_000)
  page.setDefaultTimeout(15_000)
  const shot = async (name: string) => {
    await page.waitForTimeout(500)
    await page.screenshot({ path: `/tmp/zz-${name}.png` })
  }
  await page.goto('/')
  await expect(bench.strip('R3')).toBeVisible()
  await bench.strip('R3').click()
  await page.keyboard.press('p')
  await shot('sockets')
  await page.keyboard.press('p')
  for (let i = 0; i < 3; i++) await page.keyboard.press('o')
  await shot('byvalve')
  await page.getByRole('button', { name: 'Voltages', exact: true }).click()
  await shot('chart')
  await page.keyboard.press('/')
  await page.keyboard.type('V2 sheet 250 - 5 0')
  await shot('line')
})
