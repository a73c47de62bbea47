import { expect, test } from './bench'

/** Bench speech by the keyboard: what is understood is shown piece by piece, put right, asked about, refused and kept. */
test('the line understands what is said at a bench', async ({ bench, page }) => {
  page.setDefaultTimeout(20_000)
  await bench.ticket('Skerry light receiver', ['R8 390 5%', 'C7 25uF 25V electrolytic'])
  const pieces = page.locator('.piece')
  await page.keyboard.press('/')
  await page.keyboard.type('1k2 10% R21 cathode of V3 burnt reads 1.31k lifted')
  await expect(pieces).toHaveText(['R21', '1.2 kΩ ±10 %', 'V3 cathode', 'cathode', 'scorched', 'measures 1.31 kΩ', 'lifted'])
  // A piece that is pressed stands marked in the line and is typed over.
  await pieces.nth(2).focus()
  await page.keyboard.press('Enter')
  await page.keyboard.type('anode V3')
  await expect(bench.line).toHaveValue('1k2 10% R21 anode V3 burnt reads 1.31k lifted')
  await expect(pieces.filter({ hasText: 'anode load' })).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(bench.strip('R21')).toContainText('1.31')
  await expect(bench.strip('R21')).toContainText('V3 anode')
  // The part can be said again.
  await page.keyboard.press('Escape')
  await page.keyboard.press('1')
  await expect(bench.station.locator('code')).toContainText('R21 1.2kΩ 10%, carbon composition, plate load, "V3 anode", scorched')
})

test('two meanings are asked about, several parts come at once, and what is refused stays and is kept', async ({
  bench,
  page,
}) => {
  page.setDefaultTimeout(20_000)
  await bench.ticket('Skerry light receiver', ['R8 390 5%'])
  await bench.line.fill('C24 .015 630 poly')
  const which = page.getByRole('group', { name: 'Which one is meant?' })
  await expect(which.getByRole('button')).toHaveText(['polyester', 'polypropylene', 'polystyrene'])
  // Enter leads to them; nothing is taken.
  await page.keyboard.press('Enter')
  await expect(which.getByRole('button', { name: 'polyester' })).toBeFocused()
  await page.keyboard.press('Tab')
  await page.keyboard.press('Enter')
  await expect(bench.line).toHaveValue('C24 .015 630 polypropylene')
  await expect(bench.line).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(bench.strip('C24')).toBeVisible()
  await bench.line.fill('R31 R32 R33 82k 10%')
  await expect(page.locator('.piece').first()).toHaveText('R31, R32, R33')
  await page.keyboard.press('Enter')
  await expect(bench.strip('R33')).toContainText('82')
  // What it was is said before it is another.
  await bench.line.fill('R8 20%')
  await expect(page.locator('.was')).toHaveText('it was ±5 %')
  await bench.line.fill('R8 cathoed')
  await page.keyboard.press('Enter')
  await expect(bench.understood).toContainText("'cathoed' is not understood: cathode?")
  await expect(bench.line).toHaveValue('R8 cathoed')
  await bench.line.fill('')
  await page.getByRole('button', { name: 'Workshop' }).click()
  await page.getByRole('button', { name: 'The line', exact: true }).click()
  const refused = page.getByRole('region', { name: 'What it did not understand' })
  await expect(refused).toContainText('R8 cathoed')
  await expect(refused.getByRole('link', { name: 'All of it as CSV' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'What can be said in the line' })).toContainText('field coil')
})
