import { expect, test } from './bench'

/** A stage that shorted: named, decided, fitted with one press and proven as one, by the keyboard alone. */
test('an output stage goes in with one press and is proven as one', async ({ bench, page, request }) => {
  const csv =
    'kind,type,value,watts,tolerance,family,count,place\ntransistor,BD139,,,,,4,tin of pairs\nresistor,,22,1,5%,metal film,3,emitter drawer\n'
  await request.post('/api/drawers/import', { data: csv, headers: { 'content-type': 'text/csv' } })
  await bench.ticket(
    'Harbour office amplifier',
    [
      'Q7 BD139 output without transformer',
      'Q7 rail 24',
      'Q8 BD139 output without transformer',
      'Q8 rail 24',
      'R31 22 5% 1W emitter',
      'R31 = 31 lifted',
    ],
    { devices: 'transistors' },
  )
  await bench.shorted('Q7')
  await bench.shorted('Q8')
  await page.reload()
  await bench.strip('Q7').click()
  await page.keyboard.press('4')
  const station = bench.station
  // The lit button is the question; what is asked for is named, one after the other.
  await expect(station.getByText('What may have died with Q7')).toBeVisible()
  await expect(station.getByRole('button', { name: /Look first at the rest of its stage/ })).toBeVisible()
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
  await page.keyboard.press('Enter')
  await expect(station.getByLabel('name on the sheet')).toBeFocused()
  await page.keyboard.type('C5')
  await page.keyboard.press('Enter')
  await expect(station.getByRole('alert')).toContainText('C5')
  await expect(station.getByLabel('name on the sheet')).toHaveValue('C5')
  let first = true
  while ((await station.getByText('What may have died with Q7').count()) > 0) {
    const role = await station.locator('.role b').textContent()
    await station.getByRole('button', { name: 'None here …' }).click()
    if (first) {
      await page.keyboard.press('Enter')
      await expect(station.getByRole('alert')).toContainText('say why there is none')
      first = false
    }
    await page.keyboard.type('quasi-complementary, looked at')
    await page.keyboard.press('Enter')
    await expect(station.locator('.role b', { hasText: role ?? '' })).toHaveCount(0)
  }
  await bench.strip('R31').click()
  await page.keyboard.press('3')
  await expect(bench.verdict).toContainText(/replace/i)
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
  await page.keyboard.press('Enter')
  await expect(bench.strip('R31')).toContainText(/replace/i)
  await bench.strip('Q8').click()
  await page.keyboard.press('4')
  await expect(station.getByText('R31, Q7, Q8 are one stage')).toBeVisible()
  const gains = station.getByLabel('its gain, if measured')
  await gains.nth(0).fill('often')
  await station.getByLabel('it measures').fill('22.1')
  await gains.nth(1).fill('88')
  await page.keyboard.press('Enter')
  await expect(station.getByRole('alert')).toContainText('often')
  await expect(gains.nth(0)).toHaveValue('often')
  await gains.nth(0).fill('91')
  await page.keyboard.press('Enter')
  await expect(station.getByText('Proven together: R31, Q7, Q8')).toBeVisible()
  await station.locator('textarea').fill('12 V at the middle, 8 mA at rest')
  // Volts alone do not say how the set is: it is asked, and the middle of the three is in hand.
  await station.locator('textarea').press('Enter')
  await expect(station).toContainText('Better, as before or worse?')
  await expect(station.getByRole('button', { name: 'As before' })).toBeFocused()
  await page.keyboard.press('Shift+Tab')
  await page.keyboard.press('Enter')
  for (const name of ['R31', 'Q7', 'Q8']) await expect(bench.strip(name)).toContainText(/proven/i)
})
