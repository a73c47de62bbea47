import { expect, test, type Bench } from './bench'
import type { Page } from '@playwright/test'

/** What the reader says. */
function reader(page: Page) {
  const region = page.getByRole('region', { name: 'Reader' })
  return {
    region,
    text: region.getByLabel('type what is printed, or click the part'),
    says: region.getByRole('list', { name: 'It says' }),
    first: region.getByRole('list', { name: 'It says' }).getByRole('listitem').first(),
    shape: (name: string) => region.getByRole('group', { name: 'what it looks like' }).getByRole('button', { name, exact: true }),
    colour: (name: string) => region.getByRole('group', { name: 'colours' }).getByRole('button', { name, exact: true }),
  }
}

async function open(bench: Bench, page: Page, sentences: string[] = []) {
  await bench.ticket('Cooper of the slipway, bench part', sentences)
  await page.keyboard.press('r')
  const r = reader(page)
  await expect(r.text).toBeFocused()
  return r
}

test('by keyboard: printed, weighed with a measurement, started as a part', async ({ bench, page }) => {
  const r = await open(bench, page)
  await page.keyboard.type('0.05 MFD 400 WVDC')
  await expect(r.first).toContainText('50 nF')
  await expect(r.first).toContainText('400 V DC')
  await page.keyboard.press('Enter')
  await expect(r.region.getByLabel('a new part, called')).toBeFocused()
  await page.keyboard.type('r4')
  await page.keyboard.press('Enter')
  await expect(r.region.getByText('that is the marking of a capacitor; R4 is a resistor')).toBeVisible()
  await expect(r.region.getByLabel('a new part, called')).toHaveValue('r4')
  await page.keyboard.press('Control+a')
  await page.keyboard.type('c4')
  await page.keyboard.press('Enter')
  await expect(bench.strip('C4')).toContainText('50')
  await expect(bench.station).toContainText('50 nF · 400 V DC')
  // A capacitor goes all the way; a lamp lights or not, there is nothing to measure and judge.
  await expect(bench.station.getByRole('navigation').getByRole('button')).toHaveCount(5)
  await bench.say('P3 #47')
  await expect(bench.station.getByRole('navigation').getByRole('button')).toHaveText([/Read/, /Fit/, /Prove/])
})

test('by mouse: a mica block dot by dot, the drawing and the text follow each other', async ({ bench, page }) => {
  const r = await open(bench, page)
  await r.shape('mica, 6').click()
  for (const c of ['white', 'orange', 'white', 'brown', 'green', 'orange']) await r.colour(c).click()
  await expect(r.text).toHaveValue('white orange white brown green orange')
  await expect(r.first).toContainText('390 pF')
  await expect(r.first).toContainText('characteristic D')
  await r.region.getByRole('button', { name: 'place 3, digit: white' }).click()
  await r.colour('orange').click()
  await expect(r.first).toContainText('330 pF')
  await r.text.fill('2G683K')
  await expect(r.first).toContainText('68 nF')
  await r.text.fill('brown green yellow gold')
  await expect(r.region.getByRole('group', { name: 'marked brown, green, yellow, gold' })).toBeVisible()
  await r.region.getByRole('button', { name: 'Clear' }).click()
  await expect(r.text).toHaveValue('')
})

test('colours by their keys, a missing dot, and a reading put on the selected part', async ({ bench, page }) => {
  const r = await open(bench, page, ['R7 22k 10%'])
  await r.shape('body, end, dot').focus()
  await page.keyboard.press('Enter')
  // body green, end blue, no dot of its own, silver at the other end
  for (const key of ['5', '6', 'n', 's']) await page.keyboard.press(key)
  await expect(r.text).toHaveValue('green blue none silver')
  await expect(r.first).toContainText('5.6 MΩ')
  await expect(r.first).toContainText("it has the body's colour")
  // A mark that was known says what it was, and asks; the next press takes the new one.
  await r.region.getByRole('button', { name: 'Assign to part R7' }).click()
  await expect(r.region).toContainText('R7 was read as')
  await r.region.getByRole('button', { name: 'Assign to part R7' }).click()
  await expect(bench.strip('R7')).toContainText('5.6 MΩ')
})

test('a browned part is found by its measurement, and says why', async ({ bench, page }) => {
  const r = await open(bench, page)
  await r.text.fill('brown grey brown silver')
  await expect(r.first).toContainText('180 Ω')
  await r.region.getByLabel('measured, if you have it').fill('47k')
  await expect(r.first).toContainText('39 kΩ')
  await expect(r.first).toContainText('taking the brown for orange: orange browns with heat')
  await r.region.getByLabel('measured, if you have it').fill('lots')
  await expect(r.region.getByText("'lots' is not a number")).toBeVisible()
})

test('nonsense is refused beside the field, and what was typed stays', async ({ bench, page }) => {
  const r = await open(bench, page)
  for (const [text, words] of [
    ['silver silver silver gold', 'perhaps you are reading from the wrong end'],
    ['red red red red red red red red', 'no colour code has more than 6'],
    ['0.1 µF 250 banana', "'banana'"],
    ['🦉', "'🦉'"],
    ['5'.repeat(300), '300 characters long'],
  ] as const) {
    await r.text.fill(text)
    await expect(r.region.getByRole('alert').first()).toContainText(words)
    await expect(r.text).toHaveValue(text)
  }
  await r.text.fill('1N60')
  await expect(r.first).toContainText('1N60')
})

test('sheet and mark ten times apart: asked at the station, answered, kept', async ({ bench, page }) => {
  await bench.ticket('Sluice keeper set', ['R3 brown grey yellow silver sheet 18k'])
  const question = bench.station.getByRole('group', { name: 'Sheet, mark and meter disagree' })
  await expect(question).toContainText('Marked 180 kΩ, 10 times the sheet (18 kΩ)')
  await expect(bench.strip('R3')).toContainText('disagree')
  await question.getByRole('button', { name: 'Answer' }).click()
  await question.getByLabel('anything to add?').fill('fresh solder')
  await question.getByRole('button', { name: 'a wrong part was fitted before' }).click()
  await expect(question).toBeHidden()
  await page.reload()
  await expect(bench.strip('R3')).toBeVisible()
  await page.keyboard.press('1')
  await expect(bench.station.getByRole('list', { name: 'How it was explained' })).toContainText(
    'a wrong part was fitted before: fresh solder',
  )
})

test('a bench card for every code, with its sources', async ({ bench, page }) => {
  const r = await open(bench, page)
  await r.region.getByRole('button', { name: 'Bench cards' }).click()
  const cards = page.getByRole('region', { name: 'Bench cards' })
  const names = cards.getByRole('navigation').getByRole('button')
  await expect(names.first()).toBeVisible()
  expect(await names.count()).toBeGreaterThan(15)
  await cards.getByRole('button', { name: 'tantalum dots' }).click()
  await expect(cards.getByRole('row', { name: /pink/ })).toContainText('35 V')
  await expect(cards.getByRole('article')).toContainText('IEC 60062:1974')
  // On paper there is the card alone.
  await page.emulateMedia({ media: 'print' })
  await expect(page.locator('#owl-line')).toBeHidden()
  await expect(cards.getByRole('navigation')).toBeHidden()
  await page.emulateMedia({ media: 'screen' })
  await page.keyboard.press('Escape')
  await expect(r.region).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(bench.station).toBeVisible()
})
