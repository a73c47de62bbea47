import { expect, test } from './bench'

/** Two windows at one ticket, as two benches have it. */
test.setTimeout(90_000)
test('what one bench does appears on the other, and what both change is shown and not lost', async ({ bench, page, browser }) => {
  page.setDefaultTimeout(20_000)
  const id = await bench.ticket('Skua Lodestar', ['R4 4k7 10% V2 cathode'])
  const context = await browser.newContext()
  const far = await context.newPage()
  far.setDefaultTimeout(20_000)
  await far.goto(page.url())
  await expect(page.getByText('Also at this ticket: another window of yours')).toBeVisible()
  await expect(far.getByText('Also at this ticket: another window of yours')).toBeVisible()

  // A reading there is on the tray here, without a hand on this window.
  const begun = Date.now()
  await far.keyboard.press('/')
  await far.locator('#owl-line').fill('R4 = 5.9k lifted')
  await far.locator('#owl-line').press('Enter')
  await expect(bench.strip('R4')).toContainText('5.9')
  console.log(`the reading was seen on the other bench after ${Date.now() - begun} ms, with its typing`)

  // Here the sheet is being changed; there it is changed first. What is typed stays, both are shown, then mine is taken.
  await page.keyboard.press('1')
  const sheet = page.getByLabel('sheet says', { exact: true })
  await sheet.fill('5k6')
  await far.locator('#owl-line').fill('R4 sheet 5k1')
  await far.locator('#owl-line').press('Enter')
  await expect(bench.strip('R4')).toContainText('5.1')
  await expect(sheet).toHaveValue('5k6')
  await sheet.press('Enter')
  const both = page.getByRole('dialog')
  await expect(both).toContainText('5.1 kΩ')
  await both.getByRole('button').last().press('Enter')
  await expect(both).toBeHidden()
  await expect(sheet).toHaveValue('5k6')
  await sheet.press('Enter')
  await expect(bench.strip('R4')).toContainText('5.6')

  // Two readings at one pin: the second bench sees the first one's before its own is written over it.
  await bench.api.post(`/api/tickets/${id}/chart/valves`, { data: { at: 'V2', valve: 'EF89' } })
  const run = crypto.randomUUID()
  await bench.api.put(`/api/tickets/${id}/chart/runs`, { data: { id: run, name: 'before' } })
  await page.getByRole('button', { name: 'Voltages', exact: true }).click()
  const here = page.getByLabel('V2 pin 7, read now')
  await here.fill('24')
  const chart = (await (await bench.api.get(`/api/tickets/${id}/chart`)).json()) as { points: { id: string; name: string }[] }
  const point = chart.points.find((p) => p.name === 'V2 pin 7')!.id
  await bench.api.put(`/api/chart/runs/${run}/readings`, { data: { point, volts: '243' } })
  await here.press('Enter')
  await expect(page.getByRole('dialog')).toContainText('243 V')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('dialog')).toBeHidden()
  await expect(here).toHaveValue('24')
  await here.press('Enter')
  await expect(here).toHaveValue('24 V')

  // Whoever leaves is gone from the line.
  await context.close()
  await expect(page.getByText('Also at this ticket')).toBeHidden()
})
