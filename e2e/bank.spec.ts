import { expect, test } from './bench'

/** Cans in series, by keyboard: put together wrongly and rightly, measured one by one, judged as a set, let go as one. */
test('a bank of cans is told, measured and let go as one', async ({ bench, page }) => {
  test.setTimeout(60_000)
  await bench.ticket('Fastnet shore transmitter', ['C1 10u 63V'], { highest: '2.4k' })
  const job = page.getByRole('region', { name: 'The job' })
  await page.getByRole('button', { name: 'Banks and strings' }).press('Enter')
  await job.getByLabel('Name').fill('plate supply')
  await job.getByLabel('Parts in series').fill('C31-C36')
  await job.getByLabel('Resistor across each').fill('R31-R35')
  await job.getByLabel('marked, if new here').first().fill('80u 450V')
  await job.getByLabel('marked, if new here').last().fill('82k 5% 5W')
  await page.keyboard.press('Enter')
  await expect(job.getByRole('alert')).toContainText('say the volts across all of it')
  await job.getByLabel(/volts across all of it/).fill('2.3k')
  await page.keyboard.press('Enter')
  await expect(job.getByRole('alert')).toContainText('5 resistors for 6 members')
  await expect(job.getByLabel('Parts in series')).toHaveValue('C31-C36')
  await job.getByLabel('Resistor across each').fill('R31-R36')
  await page.keyboard.press('Enter')
  await expect(job.getByRole('heading', { name: 'Measure again' })).toBeVisible()
  await expect(job.getByText(/can kill/)).toBeVisible()

  // Enter takes a reading and goes on to the next can, and then down the resistors.
  await job.getByLabel('C31, the meter shows').focus()
  const focused = page.locator('input:focus')
  for (const reads of ['81u', '79u', '80u', '61u', '80u', '82u', '82k', '96k', '82k', '82k', '82k', '82k']) {
    const entry = (await focused.getAttribute('aria-label')) ?? ''
    await focused.fill(reads)
    await page.keyboard.press('Enter')
    await expect(job.getByLabel(entry)).toHaveValue('')
    if (!entry.startsWith('R36')) await expect(job.getByLabel(entry)).not.toBeFocused()
  }
  await expect(job.getByText(/C34 gets 480 V, and stands 450 V, as it charges: at 61 µF it is the smallest/)).toBeVisible()
  await expect(job.getByRole('row', { name: 'C32' })).toContainText('436 V of 450 V')
  await job.getByRole('button', { name: 'C34', exact: true }).press('Enter')
  await expect(bench.station).toContainText('plate supply, 4 of 6')
  await expect(bench.verdict).toContainText('Replace')
  await bench.station.getByRole('button', { name: /plate supply, 4 of 6/ }).press('Enter')
  await expect(job.getByRole('heading', { name: 'C34, R32 go, the others stay' })).toBeVisible()
  await job.getByRole('button', { name: 'All 6 go' }).press('Enter')
  await page.getByRole('button', { name: 'Yes' }).press('Enter')
  await expect(job.getByRole('heading', { name: 'All of it goes' })).toBeVisible()
  await job.getByRole('button', { name: 'To what goes in' }).press('Enter')
  await expect(bench.station).toContainText('C36')
})
