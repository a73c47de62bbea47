import { execFileSync } from 'node:child_process'
import { expect, test } from './bench'

/** What is known of a set, asked once: by keyboard, with wrong input and a server that is away. */
test('the supply of a set is said once and used where a part needs it', async ({ bench, page }) => {
  await bench.ticket('Skarn lifeboat station', [
    'C1 24 MFD 350V electrolytic reservoir',
    'C2 24 MFD 350V electrolytic smoothing',
  ])
  const job = page.getByRole('region', { name: 'The job' })
  await page.getByRole('button', { name: 'Check in', exact: true }).press('Enter')
  await job.getByRole('button', { name: 'Its supply' }).press('Enter')
  await job.getByLabel('line', { exact: true }).fill('a storm')
  await job.getByLabel("rectifier's volts AC").fill('245')
  await job.getByLabel('name').first().fill('HT')
  await job.getByLabel('volts', { exact: true }).first().fill('430')
  await job.getByLabel('volts', { exact: true }).first().press('Enter')
  await expect(job.getByRole('alert')).toContainText('a storm')
  await expect(job.getByLabel('line', { exact: true })).toHaveValue('a storm')
  await job.getByLabel('line', { exact: true }).fill('231')
  await page.keyboard.press('Enter')
  // Two entries that cannot both hold are named, here and at the page's name.
  await expect(job.getByRole('alert')).toContainText('cannot come out of 245 V AC')
  await expect(job.getByRole('button', { name: /Its supply/ })).toContainText('one entry does not fit')
  await job.getByLabel('volts', { exact: true }).first().fill('268')
  await page.keyboard.press('Enter')
  await expect(job.getByText('Nothing that was said speaks against another.')).toBeVisible()

  // A part takes it over; what is said beside it counts for the others.
  await page.getByRole('button', { name: 'Parts', exact: true }).click()
  await bench.strip('C1').click()
  await page.keyboard.press('4')
  await expect(bench.station).toContainText(/of the set: rail 268 V.*245 V/)
  await bench.station.getByRole('button', { name: 'say it' }).press('Enter')
  await bench.station.getByLabel('load current').fill('63mA')
  await page.keyboard.press('Enter')
  await expect(bench.station).toContainText(/of the set:.*63 mA/)
  await page.getByRole('button', { name: 'Check in', exact: true }).click()
  await job.getByRole('button', { name: 'Its supply' }).click()
  await expect(job.getByLabel('load current')).toHaveValue('63 mA')
})

test('with the database away what was typed of a set stays, and is kept when it is back', async ({ bench, page }) => {
  test.skip(!process.env.OWL_CLUSTER_DIR, 'no cluster of its own')
  const cluster = (verb: string) =>
    execFileSync(process.env.OWL_CLUSTER_SCRIPT ?? '', [verb, process.env.OWL_CLUSTER_DIR ?? '', verb === 'stop' ? '--now' : '--throw-away'])
  await bench.ticket('Breakwater portable', [], { source: 'battery', devices: 'transistors' })
  const job = page.getByRole('region', { name: 'The job' })
  await page.getByRole('button', { name: 'Check in', exact: true }).click()
  await job.getByRole('button', { name: 'Its supply' }).click()
  await expect(job.getByLabel('line', { exact: true })).toHaveCount(0)
  await job.getByLabel('name').first().fill('battery')
  await job.getByLabel('volts', { exact: true }).first().fill('9')
  cluster('stop')
  await job.getByRole('button', { name: 'Save' }).click()
  await expect(job.getByRole('alert')).toContainText('does not answer')
  await expect(job.getByLabel('volts', { exact: true }).first()).toHaveValue('9')
  cluster('start')
  await expect(page.getByText('Back again.')).toBeVisible({ timeout: 40_000 })
  await job.getByRole('button', { name: 'Save' }).click()
  await expect(job.getByText('saved', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'First power-up', exact: true }).click()
  await expect(job.getByLabel('Bench supply')).toBeVisible()
  await expect(job.getByText('Lamp in series')).toHaveCount(0)
})
