import { execFileSync } from 'node:child_process'
import { expect, test } from './bench'

test('nonsense is refused in words, and what was typed stays', async ({ bench, page }) => {
  await bench.ticket('Wrong input', ['R2 6.8k 10%'])
  for (const [typed, words] of [
    ['R2 = -5', 'below zero'],
    ['R2 = inf', 'not finite'],
    ['R2 =', 'what does R2 measure'],
    ['R2 gold brown black red gold gold gold', '7 colours'],
    ['R2 gold gold gold', 'gold cannot be a first digit'],
    ['R9', 'not on the tray yet'],
    ['R2 = 🦉', '🦉'],
    ['F4 hullabaloo', "'hullabaloo'"],
    ['R2 hullabaloo', "'hullabaloo' is not understood"],
  ] as const) {
    await bench.line.fill(typed)
    await expect(bench.understood, typed).toContainText(words)
    await bench.line.press('Enter')
    await expect(bench.understood, typed).toContainText(words)
    await expect(bench.line).toHaveValue(typed)
  }
  await bench.line.fill('R2 '.repeat(1666))
  await expect(bench.understood).toContainText('4998 characters long')
  await bench.line.fill('R2 = 6,71k')
  await expect(bench.understood).toContainText('measures 6.71 kΩ')
  await bench.line.press('Enter')
  await expect(bench.strip('R2')).toContainText('6.71')
})

test('a value a million times off is asked about and kept', async ({ bench, page }) => {
  await bench.ticket('Slip of the finger', ['R2 6.8k 10%'])
  await bench.line.fill('R2 = 6.8G')
  await expect(bench.understood).toContainText('Perhaps 6.8 kΩ was meant')
  await bench.line.press('Enter')
  await expect(bench.understood).toContainText('Enter once more')
  await expect(bench.line).toHaveValue('R2 = 6.8G')
  await bench.line.fill('R2 = 6.8k')
  await bench.line.press('Enter')
  await expect(bench.strip('R2')).toContainText('Measure again')
  // The same in the reading's own field, taken on the second press.
  await page.keyboard.press('Escape')
  await page.keyboard.press('2')
  const field = bench.station.getByLabel('the meter shows')
  await field.fill('6.8')
  await field.press('Enter')
  await expect(bench.station.getByText('1\u202f000 times below')).toBeVisible()
  await expect(field).toHaveValue('6.8')
  await field.press('Enter')
  await expect(field).toHaveValue('')
  await expect(bench.station.getByText('6.8 Ω', { exact: true })).toBeVisible()
})

test('what was typed outlives leaving the part and reloading the page', async ({ bench, page }) => {
  await bench.ticket('Called to the door', ['R2 6.8k 10%'])
  await bench.say('R3 4.7M 10%')
  await bench.strip('R2').click()
  await page.keyboard.press('2')
  await bench.station.getByLabel('the meter shows').fill('6.9')
  await page.keyboard.press('Escape')
  await page.keyboard.press('1')
  await bench.station.getByLabel('what else you see on it').fill('cracked at one end')
  await bench.line.fill('R3 = 4.')
  await bench.strip('R3').click()
  await page.reload()
  await expect(bench.line).toHaveValue('R3 = 4.')
  await bench.strip('R2').click()
  await bench.station.getByRole('button', { name: /^Read/ }).click()
  await expect(bench.station.getByLabel('what else you see on it')).toHaveValue('cracked at one end')
  await expect(bench.station.getByRole('button', { name: 'Save' })).toBeVisible()
  await bench.station.getByRole('button', { name: /^Measure/ }).click()
  await expect(bench.station.getByLabel('the meter shows')).toHaveValue('6.9')
})

test('a ticket that is not there says so', async ({ bench, page }) => {
  await page.goto('/5f0c1c3e-0000-4000-8000-000000000000')
  await expect(page.getByText('this ticket is not there')).toBeVisible()
  await page.getByRole('button', { name: /Tidewright Heron 7/ }).click()
  await expect(bench.strip('R3')).toBeVisible()
})

test('two windows do not overwrite each other', async ({ bench, page, context }) => {
  const id = await bench.ticket('Two windows', ['R2 6.8k 10%'])
  await page.keyboard.press('1')
  await bench.station.getByLabel('found at').fill('V2, pin 3')
  const other = await context.request.get(`/api/tickets/${id}`)
  const { parts } = (await other.json()) as { parts: { id: string; version: number }[] }
  const part = parts[0]
  if (!part) throw new Error('no part')
  // The other window is quicker by a hair: its change is there before this one has heard of it.
  let first = true
  await page.route(`**/api/parts/${part.id}`, async (route) => {
    if (route.request().method() === 'PATCH' && first) {
      first = false
      const data = { version: part.version, sheet: '7.5k' }
      const there = await context.request.patch(`/api/parts/${part.id}`, { data })
      expect(there.status()).toBe(200)
    }
    await route.continue()
  })
  await bench.station.getByRole('button', { name: 'Save' }).click()
  const dialog = page.getByRole('dialog', { name: 'Changed in another window' })
  await expect(dialog).toContainText('sheet')
  await expect(dialog).toContainText('7.5 kΩ')
  await dialog.getByRole('button', { name: 'Show me how it stands' }).click()
  await expect(bench.strip('R2')).toContainText('7.5')
  await expect(bench.station.getByLabel('found at')).toHaveValue('V2, pin 3')
  await bench.station.getByRole('button', { name: 'Save' }).click()
  await expect(bench.strip('R2')).toContainText('7.5')
  await expect(bench.station.getByRole('button', { name: 'Save' })).toBeHidden()
})

test('the database stops in the middle of typing and comes back', async ({ bench, page }) => {
  const script = process.env.OWL_CLUSTER_SCRIPT ?? ''
  const dir = process.env.OWL_CLUSTER_DIR ?? ''
  await bench.ticket('Power cut', ['R2 6.8k 10%'])
  await bench.line.fill('R2 = 6.7')
  await expect(bench.understood).toContainText('measures 6.7')
  execFileSync(script, ['stop', dir, '--now'])
  try {
    await bench.line.pressSequentially('5k lifted')
    await bench.line.press('Enter')
    await expect(bench.understood).toContainText('No answer from the database')
    await expect(bench.line).toHaveValue('R2 = 6.75k lifted')
    await expect(bench.strip('R2')).toBeVisible()
  } finally {
    execFileSync(script, ['start', dir, '--throw-away'])
  }
  await expect(page.getByText('Back again.')).toBeVisible({ timeout: 40_000 })
  await expect(bench.understood).toContainText('measures 6.75 kΩ, lifted')
  await bench.line.press('Enter')
  await expect(bench.strip('R2')).toContainText('Keep')
  await expect(bench.strip('R2')).toContainText('6.75')
})

test('the reader goes on reading without the database, and starts the part when it is back', async ({ bench, page }) => {
  const script = process.env.OWL_CLUSTER_SCRIPT ?? ''
  const dir = process.env.OWL_CLUSTER_DIR ?? ''
  await bench.ticket('Power cut at the reader', [])
  await page.keyboard.press('r')
  const reader = page.getByRole('region', { name: 'Reader' })
  const field = reader.getByLabel('type what is printed, or click the part')
  await field.fill('2A563J')
  execFileSync(script, ['stop', dir, '--now'])
  try {
    await field.fill('2A564J')
    await expect(reader.getByRole('list', { name: 'It says' })).toContainText('560 nF')
    await reader.getByLabel('a new part, called').fill('C3')
    await page.keyboard.press('Enter')
    await expect(bench.understood).toContainText('No answer from the database')
    await expect(field).toHaveValue('2A564J')
    await expect(reader.getByLabel('a new part, called')).toHaveValue('C3')
  } finally {
    execFileSync(script, ['start', dir, '--throw-away'])
  }
  await expect(page.getByText('Back again.')).toBeVisible({ timeout: 40_000 })
  await page.reload()
  await expect(field).toHaveValue('2A564J')
  await reader.getByLabel('a new part, called').fill('C3')
  await page.keyboard.press('Enter')
  await expect(bench.strip('C3')).toContainText('560')
})

test('a page that is older than the server says so, and what was typed outlives the reload', async ({
  bench,
  page,
}) => {
  await bench.ticket('Brought up to date', ['R2 6.8k 10%'])
  const old = page.getByText('The server has been updated since this page was opened.')
  await expect(old).toBeHidden()
  // From here on another server answers: one that would give out another page.
  let later = true
  await page.route(/\/api\/(?!events)/, async (route) => {
    if (!later) return route.continue()
    const response = await route.fetch()
    await route.fulfill({ response, headers: { ...response.headers(), 'x-owl-build': 'index-later.js' } })
  })
  await bench.line.fill('R2 = 6.9')
  await expect(old).toBeVisible()
  await expect(bench.line).toHaveValue('R2 = 6.9')
  // After the reload the page is that server's own.
  later = false
  const reload = page.getByRole('button', { name: 'Reload the page' })
  await reload.focus()
  await page.keyboard.press('Enter')
  await expect(old).toBeHidden()
  await expect(bench.line).toHaveValue('R2 = 6.9')
})
