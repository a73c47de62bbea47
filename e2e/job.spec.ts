import { execFileSync } from 'node:child_process'
import { readFile } from 'node:fs/promises'
import { expect, test } from './bench'

/** The main ticket of the demo from intake to report, by keyboard alone. */
test('the demo ticket is replayed from intake to report, by keyboard', async ({ bench, page }) => {
  test.setTimeout(400_000)
  const key = (k: string) => page.keyboard.press(k)
  const type = async (text: string) => page.keyboard.type(text)
  const job = page.getByRole('region', { name: 'The job' })
  const line = page.getByRole('navigation', { name: 'Stages of the job' })
  const stage = async (name: string) => {
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
    for (let i = 0; i < 8; i++) {
      if (await line.getByRole('button', { name, exact: true }).getAttribute('aria-current')) return
      await key('j')
      await page.waitForTimeout(60)
    }
    throw new Error(`no stage ${name}`)
  }
  /** Tab until a named field has the focus: the way there is part of what is tried. */
  const tabTo = async (name: RegExp) => {
    for (let i = 0; i < 160; i++) {
      await key('Tab')
      const at = await page.evaluate(() => {
        const e = document.activeElement as HTMLInputElement | null
        const label = e?.id ? document.querySelector(`label[for="${e.id}"]`)?.textContent : ''
        return [e?.getAttribute('aria-label'), label, e?.textContent].filter(Boolean).join(' ')
      })
      if (name.test(at)) return
    }
    throw new Error(`nothing called ${name} is reached with the Tab key`)
  }

  // A copy of it, so that the other stories find theirs as it was: written out, and taken in under other ids.
  const heron = ((await (await bench.api.get('/api/tickets')).json()) as { id: string; name: string }[]).find((t) =>
    t.name.startsWith('Tidewright Heron'),
  )
  const ids = new Map<string, string>()
  const other = (id: string) => {
    if (!ids.has(id)) ids.set(id, crypto.randomUUID())
    return ids.get(id) ?? ''
  }
  const record = await (await bench.api.get(`/api/tickets/${heron?.id}/record.json`)).text()
  const copy = record
    .replace(/[0-9a-f]{8}-(?:[0-9a-f]{4}-){3}[0-9a-f]{12}/g, other)
    .replace('Tidewright Heron 7', 'Signal hut table set')
  const taken = await bench.api.post('/api/tickets/import', { headers: { 'content-type': 'application/json' }, data: copy })
  expect(taken.status(), await taken.text()).toBe(201)
  await page.goto('/')
  await page.getByRole('button', { name: /Signal hut table set/ }).focus()
  await key('Enter')
  await expect(bench.strip('R3')).toBeVisible()

  // Check in: the owner's words stand there, the safety list is ticked with name and time; one more symptom.
  await stage('Check in')
  await expect(job.getByText('All checked.')).toBeVisible()
  await tabTo(/^something else it does/)
  await type('dial lamp flickers')
  await key('Enter')
  await tabTo(/^Save/)
  await key('Enter')
  await expect(job.getByRole('button', { name: 'dial lamp flickers' })).toHaveAttribute('aria-pressed', 'true')
  await expect(job.getByText('saved', { exact: true })).toBeVisible()

  // First power-up: the next step, the lamp's story, what it means.
  await stage('First power-up')
  await tabTo(/^Variable transformer/)
  await page.keyboard.press('Control+A')
  await type('220')
  await key('Tab')
  await page.keyboard.press('Control+A')
  await type('150 W')
  await key('Tab')
  await type('0.24')
  await key('Tab')
  await key('ArrowDown')
  await key('ArrowDown')
  await expect(job.getByRole('radio', { checked: true })).toHaveValue('bright, then dim, then up a little')
  await key('Enter')
  await expect(job.getByText('It is up').first()).toBeVisible()

  // Voltages: a new set, in the order of probing with the pad; what is low is said.
  await stage('Voltages')
  await expect(job.getByText('−93.7 %', { exact: true })).toBeVisible()

  // The guilty part: found from the chart, with what it overloads.
  await stage('Guilty part')
  await expect(job.getByText(/C6 leaking, about [\d.]+ kΩ explains both readings/)).toBeVisible()
  await tabTo(/^C6 leaking/)
  await tabTo(/^go to the part/)
  await key('Enter')
  await expect(bench.station.getByRole('heading', { name: /C6/ }).or(bench.station.getByText(/^C6/).first())).toBeVisible()

  // C6 goes: decided, fitted, and only then R3, which asks to prove C6 first.
  await key('3')
  await expect(bench.verdict).toContainText('Replace')
  await key('Enter')
  await expect(bench.station.getByRole('list', { name: 'what fits' }).or(bench.station.locator('.choices'))).toBeVisible()
  await key('Enter')
  await expect(bench.strip('C6')).toContainText('Prove it')
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
  await bench.strip('R3').focus()
  await key('Enter')
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
  await key('4')
  await expect(bench.station.locator('.choices')).toBeVisible()
  // It was cooked: why is asked before another one goes in.
  await key('Enter')
  const cause = bench.station.getByRole('group', { name: 'Why did it fail?' })
  await expect(cause.getByRole('button', { name: /C6/ }).last()).toBeFocused()
  await key('Enter')
  await expect(cause).toBeHidden()
  await key('Enter')
  await expect(bench.station.getByRole('alert').filter({ hasText: 'not proven yet' })).toBeVisible()
  await stage('Changes')
  await tabTo(/^Prove it at its part/)
  await key('Enter')
  await expect(bench.station.getByText('before', { exact: true })).toBeVisible()
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
  await key('Enter')
  await type('screen back at 88 V, hum less')
  await key('Enter')
  await expect(bench.strip('C6')).toContainText('Proven')
  await bench.strip('R3').focus()
  await key('Enter')
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
  await key('4')
  await expect(bench.station.locator('.choices')).toBeVisible()
  await key('Enter')
  await expect(bench.strip('R3')).toContainText('Prove it')
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
  await key('Enter')
  await type('plays, no smell, 104 V on the screen')
  await key('Enter')
  await expect(bench.strip('R3')).toContainText('Proven')
  await stage('Changes')
  await expect(job.getByText('proven alone')).toHaveCount(3)

  // Voltages after, beside those before, typed on the pad: a digit begins the reading of the point in hand.
  await stage('Voltages')
  await tabTo(/^New set/)
  await key('Enter')
  await tabTo(/^Mains voltage now/)
  await page.keyboard.press('Control+A')
  await type('219')
  await key('Enter')
  await expect(job.getByText('change', { exact: true })).toBeVisible()
  await tabTo(/^V1 pin 8, read now/)
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
  await key('Shift+Numpad1')
  for (const volts of ['186', '103', '2.3']) {
    await page.keyboard.press('Control+A')
    await type(volts)
    await key('Enter')
    await page.waitForTimeout(20)
  }
  await expect(job.getByRole('row', { name: /V1 pin 6/ })).toContainText('right')

  // Close: a look at the set on soak, then closed although something is left; the report says it all.
  await stage('Close')
  await tabTo(/^To run/)
  await page.keyboard.press('Control+A')
  await type('30 min')
  await key('Enter')
  await expect(job.getByText('of 30:00')).toBeVisible()
  await tabTo(/^What do you see/)
  await type('cool, quiet, plays the notices')
  await key('Enter')
  await expect(job.getByText('cool, quiet, plays the notices')).toBeVisible()
  await tabTo(/^What the owner is to watch/)
  await type('Listen for hum after an hour.')
  await tabTo(/^Close the ticket/)
  await key('Enter')
  await expect(job.getByRole('alert').filter({ hasText: 'Something is left' })).toBeVisible()
  await key('Enter')
  await expect(job.locator('.closed')).toContainText('Closed')
  const id = new URL(page.url()).pathname.split('/')[1]
  await page.goto(`/api/tickets/${id}/report/owner`)
  await expect(page.getByText(/screen bypass capacitor C6 was replaced by/)).toBeVisible()
  await expect(page.getByText('Listen for hum after an hour.')).toBeVisible()
  await page.goto(`/api/tickets/${id}/report/technician`)
  await expect(page.getByText('plays, no smell, 104 V on the screen').first()).toBeVisible()

})

test('by mouse: a valve goes into the chart, a feed is told, a wrong line is said beside it', async ({ bench, page }) => {
  await bench.ticket('Harbour office set', ['R6 27k 1W screen feed', 'C8 .1/400 screen bypass wax paper'])
  const job = page.getByRole('region', { name: 'The job' })
  await page.getByRole('button', { name: 'Voltages', exact: true }).click()
  await expect(job.getByText('No points yet')).toBeVisible()
  await job.getByRole('button', { name: 'Add a valve or a board' }).first().click()
  await job.getByLabel('Valve', { exact: true }).fill('V2')
  await job.getByLabel('Type', { exact: true }).fill('nonsense')
  await job.getByLabel('Type', { exact: true }).press('Enter')
  await expect(job.getByRole('alert')).toContainText('nonsense is in no table')
  await job.getByLabel('Type', { exact: true }).fill('EL84')
  await job.getByLabel('Type', { exact: true }).press('Enter')
  await expect(job.getByRole('row', { name: /V2 pin 7/ })).toContainText('anode')
  await expect(job.getByRole('img', { name: /EL84, seen from below/ })).toBeVisible()
  await job.getByRole('button', { name: 'Add a valve or a board' }).first().click()
  const board = job.getByLabel(/whole board/)
  await board.fill('V3 EF89, Q1 nothing')
  await board.press('Enter')
  await expect(job.getByRole('alert')).toContainText('Q1: nothing is in no table')
  await expect(board).toHaveValue('V3 EF89, Q1 nothing')
  await board.fill('V3 EF89, Q1 AF126')
  await board.press('Enter')
  await expect(job.getByRole('row', { name: /Q1 pin 3 collector/ })).toBeVisible()

  await page.getByRole('button', { name: 'Guilty part', exact: true }).click()
  await job.getByLabel('Called').fill('screen')
  await job.getByLabel('Rail by the sheet').fill('240')
  await job.getByLabel(/Parts, one a line/).fill('R6 rail V2 pin 9 27k\nnothing')
  await job.getByRole('button', { name: 'Find it' }).click()
  await expect(job.getByRole('alert')).toContainText("line 2: 'nothing'")
  await job.getByLabel(/Parts, one a line/).fill('R6 rail V2 pin 9 27k 1W\nC8 V2 pin 9 .1\nV2 V2 pin 9 4mA')
  await job.getByRole('button', { name: 'Find it' }).click()
  await job.getByLabel('V2 pin 9, read').fill('0')
  await job.getByRole('button', { name: 'Find it' }).click()
  await expect(job.getByText(/equally well/).first()).toBeVisible()
  await expect(job.getByRole('img', { name: /explain/ })).toContainText('R6')
})

test('a high-voltage set asks its list again in a new session, and measuring says so', async ({ bench, page, context }) => {
  await bench.ticket('Mole beacon', ['R1 47k 2W bleeder'], { highest: '1.4 kV' })
  await bench.strip('R1').click()
  await page.keyboard.press('Escape')
  await page.keyboard.press('2')
  await bench.station.getByRole('button', { name: 'Go through it' }).click()
  const job = page.getByRole('region', { name: 'The job' })
  await job.getByRole('button', { name: 'Checked' }).first().click()
  await expect(job.getByRole('alert')).toContainText('say who checked it')
  await job.getByLabel('Who checks').fill('Ragna')
  for (let left = await job.getByRole('button', { name: 'Checked' }).count(); left > 0; left--) {
    await job.getByRole('button', { name: 'Checked' }).first().click()
    await expect(job.getByRole('button', { name: 'Checked' })).toHaveCount(left - 1)
  }
  await expect(job.getByText('All checked.')).toBeVisible()
  const tomorrow = await context.newPage()
  await tomorrow.goto(page.url())
  await expect(tomorrow.getByRole('button', { name: 'Checked' }).first()).toBeVisible()
  await tomorrow.close()
})

test('a photograph is taken in by its content; a text that calls itself one is not', async ({ bench, page }) => {
  await bench.ticket('Net loft receiver', ['R1 1k 10% ½W'])
  await page.getByRole('button', { name: 'Check in', exact: true }).click()
  const file = page.locator('input[type=file]')
  await file.setInputFiles({ name: 'chassis.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no picture at all') })
  await expect(page.getByRole('alert')).toContainText('chassis.jpg: this is no JPEG, PNG, WebP or PDF')
  await file.setInputFiles({ name: 'bench.png', mimeType: 'image/png', buffer: await readFile('../docs/screenshots/bench.png') })
  await expect(page.getByRole('img', { name: 'bench.png' })).toBeVisible()
  // A pin is dropped by the mouse, and moved by the keys; it opens its part.
  await page.getByRole('button', { name: 'bench.png', exact: true }).click()
  const sheet = page.getByRole('dialog', { name: 'bench.png' })
  const pin = sheet.getByRole('button', { name: /^R1:/ })
  await sheet.getByRole('img', { name: 'bench.png' }).click({ position: { x: 60, y: 40 } })
  await expect(pin).toBeVisible()
  const left = async () => Number.parseFloat(await pin.evaluate((e) => e.style.left))
  const before = await left()
  await pin.focus()
  await page.keyboard.press('ArrowRight')
  await expect.poll(left).toBeCloseTo(before + 1, 1)
  await page.keyboard.press('Enter')
  await expect(sheet).toBeHidden()
  await expect(page).toHaveURL(/\/R1$/)
})

test('past work is asked as one would ask a colleague, and leads to the part', async ({ bench, page }) => {
  await page.goto('/')
  await expect(bench.strip('R3')).toBeVisible()
  await page.keyboard.press('w')
  await page.getByRole('button', { name: 'Past work' }).click()
  await page.getByRole('textbox', { name: 'Ask all tickets' }).fill('56k screen feeds that were high')
  await expect(page.getByText('understood as')).toContainText('screen feed')
  await page.getByRole('button', { name: 'Tidewright Heron 7 · R3' }).click()
  await expect(page).toHaveURL(/\/R3$/)
})

test('an address that nobody serves leads back to the bench', async ({ page }) => {
  await page.goto('/no/such/place/at/all')
  await expect(page.getByRole('heading', { name: 'Nothing lies here' })).toBeVisible()
  await page.getByRole('link', { name: 'Back to the bench' }).click()
  await expect(page.locator('.tag').first()).toBeVisible()
  await page.goto('/no-ticket')
  await expect(page.getByRole('heading', { name: 'Nothing lies here' })).toBeVisible()
})

test('volts typed while the database is away are kept, and go in when it is back', async ({ bench, page }) => {
  const script = process.env.OWL_CLUSTER_SCRIPT ?? ''
  const dir = process.env.OWL_CLUSTER_DIR ?? ''
  const id = await bench.ticket('Breakwater set', [])
  await bench.api.post(`/api/tickets/${id}/chart/valves`, { data: { at: 'V1', valve: '80' } })
  await bench.api.put(`/api/tickets/${id}/chart/runs`, { data: { id: crypto.randomUUID(), name: 'before', line: '214' } })
  await page.getByRole('button', { name: 'Voltages', exact: true }).click()
  const job = page.getByRole('region', { name: 'The job' })
  const field = job.getByLabel('V1 pin 2, read now')
  await expect(field).toBeVisible()
  execFileSync(script, ['stop', dir, '--now'])
  try {
    await field.fill('260')
    await page.keyboard.press('Enter')
    await expect(job.getByRole('alert')).toContainText('does not answer')
    await expect(field).toHaveValue('260')
  } finally {
    execFileSync(script, ['start', dir, '--throw-away'])
  }
  await expect(page.getByText('Back again.')).toBeVisible({ timeout: 40_000 })
  await expect(field).toHaveValue('260 V')
})
