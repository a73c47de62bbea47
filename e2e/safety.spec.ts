import { expect, test } from './bench'

/** What can hurt: before power, at the probe, before a set goes out; by keyboard, with wrong input. */

test('a transistor set without a transformer gets all of a live chassis, and goes out measured', async ({
  bench,
  page,
}) => {
  await page.goto('/')
  await expect(bench.strip('R3')).toBeVisible()
  await page.keyboard.press('n')
  const sheet = page.getByRole('dialog')
  await sheet.getByLabel('the set').fill('Skerry kitchen portable')
  const choose = async (from: string, to: string) => {
    await sheet.locator('.el-select', { hasText: from }).click()
    await page.getByRole('option', { name: to, exact: true }).click()
  }
  await choose('mains transformer', 'mains, live chassis')
  await choose('valves', 'transistors')
  await sheet.getByRole('button', { name: 'Open the ticket' }).press('Enter')
  await expect(page.locator('.tag.on', { hasText: 'Skerry kitchen portable' })).toBeVisible()
  const job = page.getByRole('region', { name: 'The job' })
  const stage = (name: string) => page.getByRole('button', { name, exact: true }).click()

  await stage('Check in')
  await expect(job.getByText(/Isolating transformer in the feed/)).toBeVisible()
  await stage('Voltages')
  await expect(job.getByText(/live chassis: isolating transformer in/)).toBeVisible()

  // First power is asked about until what comes before it was gone through.
  await stage('First power-up')
  await expect(job.getByText(/residual-current device is blind/)).toBeVisible()
  await job.getByLabel('Variable transformer').fill('35')
  await job.getByRole('textbox', { name: 'Lamp in series' }).fill('40 W')
  await job.getByText('dim', { exact: true }).click()
  await job.getByRole('button', { name: 'Write it down' }).click()
  await expect(job.getByText(/Not gone through before this first power/)).toBeVisible()
  await expect(job.getByLabel('Variable transformer')).toHaveValue('35')
  await job.getByLabel('Who checks').fill('Runa')
  for (let left = await job.getByRole('button', { name: 'Checked' }).count(); left > 0; left--) {
    await job.getByRole('button', { name: 'Checked' }).first().click()
    await expect(job.getByRole('button', { name: 'Checked' })).toHaveCount(left - 1)
  }
  await job.getByRole('button', { name: /Write it down/ }).click()
  await expect(job.getByText('The way up so far')).toBeVisible()
  await expect(job.getByText('40 W: dim')).toBeVisible()

  // Before it goes out: wrong input stays, what does not pass keeps it in.
  await stage('Close')
  const touch = job.getByLabel(/^Touch current/)
  await touch.fill('a lot')
  await touch.press('Enter')
  await expect(job.getByText(/not a number/)).toBeVisible()
  await expect(touch).toHaveValue('a lot')
  await touch.fill('1.1mA')
  await touch.press('Enter')
  await expect(job.getByText('1.1 mA: does not pass')).toBeVisible()
  await job.getByRole('button', { name: 'Close the ticket' }).click()
  await expect(job.getByText(/It does not go out so/)).toBeVisible()
  await touch.fill('80uA')
  await touch.press('Enter')
  await expect(job.getByText('80 µA', { exact: true })).toBeVisible()
  await job.getByRole('button', { name: 'Close the ticket' }).click()
  await expect(job.getByText(/Something is left/)).toBeVisible()
})

test('a suspect that is none is taken off with a reason', async ({ bench, page }) => {
  await bench.ticket(
    'Skerry stereo',
    ['Q7 BD139 output without transformer', 'Q7 rail 40', 'Q3 BC140 driver'],
    { devices: 'transistors' },
  )
  await bench.shorted('Q7')
  await page.reload()
  await bench.strip('Q3').click()
  await expect(bench.station.getByText(/suspect with Q7/)).toBeVisible()
  await bench.station.getByRole('button', { name: 'No suspect …' }).click()
  await page.keyboard.press('Enter')
  await expect(bench.station.getByText(/say why it is none/)).toBeVisible()
  await bench.station.getByLabel('Why it is none').fill('of the other channel')
  await page.keyboard.press('Enter')
  await expect(bench.station.getByText(/suspect with Q7/)).toHaveCount(0)
})

test('the rectifier sheet asks what a bare current means, and says what a diode meets', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'Supply', exact: true }).click()
  const tool = page.getByRole('region', { name: 'Supply' })
  await tool
    .getByRole('button', { name: /Rectifier/ })
    .first()
    .click()
  await tool.getByLabel('volts AC at the rectifier').fill('185')
  await tool.getByLabel('capacitor').fill('68uF')
  await tool.getByLabel('load current').fill('36.5')
  await expect(tool.getByText('36.5 mA or 36.5 A? Write the unit')).toBeVisible()
  await expect(tool.getByLabel('load current')).toHaveValue('36.5')
  await tool.getByLabel('load current').fill('36.5 mA')
  await tool.getByLabel('winding and line, ohms').fill('3')
  await tool.locator('.el-select', { hasText: 'not chosen yet' }).click()
  await page.getByRole('option', { name: /^1N4007/ }).click()
  await expect(tool.getByText(/more than the 30 A that 1N4007 stands/)).toBeVisible()
  await expect(tool.getByText('before the valves draw')).toBeVisible()
})
