import { expect, test } from './bench'

test('the workshop chooses its words by keyboard: tray, station, cautions and the page follow, what was typed stays', async ({
  bench,
  page,
}) => {
  await bench.ticket('Two trades', ['R31 68k 5% anode load', 'R31 = 71k in'])
  await bench.strip('R31').click()
  await page.keyboard.press('1')
  await bench.station.getByLabel('what else you see on it').fill('valve base browned')
  await bench.station.getByRole('button', { name: 'Save' }).click()
  await page.keyboard.press('3')
  await expect(bench.station.getByRole('heading', { name: 'R31 · anode load' })).toBeVisible()
  await expect(bench.station).toContainText('pull its valve: the HT end')
  await page.keyboard.press('w')
  const workshop = page.getByRole('region', { name: 'The workshop' })
  await workshop.getByRole('button', { name: 'Words', exact: true }).press('Enter')
  try {
    await workshop.getByRole('radio', { name: 'valve' }).focus()
    await page.keyboard.press('ArrowRight')
    await expect(workshop.getByText('pull the tube before you measure its anode load')).toBeVisible()
    await workshop.getByRole('button', { name: 'As in the American trade' }).press('Enter')
    await expect(workshop.getByText('filaments cold, B+ down to zero against ground')).toBeVisible()
    await page.keyboard.press('Escape')
    await expect(bench.strip('R31')).toContainText('plate load')
    await expect(bench.station).toContainText('pull its tube: the B+ end')
    await page.keyboard.press('1')
    await expect(bench.station.getByLabel('what else you see on it')).toHaveValue('valve base browned')
    await page.reload()
    await expect(bench.strip('R31')).toContainText('plate load')
  } finally {
    await page.request.put('/api/workshop/dialect', {
      data: { valve: 'valve', supply: 'HT', anode: 'anode', earth: 'earth', heater: 'heater' },
    })
  }
})
