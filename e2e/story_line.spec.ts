import type { Locator, Page } from '@playwright/test'
import { expect, test, type Bench } from './bench'

/**
 * A receiver with seven valves, 40 parts and three faults, with the line alone and by touch; the hand's inputs are counted:
 * a sentence or a number with its Enter is one, a key that is pressed or a thing that is touched is one.
 */
class Hand {
  count = 0
  private readonly marks: [string, number, number][] = []
  private from = 0

  constructor(
    readonly bench: Bench,
    readonly page: Page,
    readonly touches = false,
  ) {}

  /** A sentence with its Enter, or with the button that takes it. */
  async say(text: string) {
    this.count++
    await this.bench.line.fill(text)
    await this.bench.line.press('Enter')
    await expect(this.bench.understood, text).toContainText('Taken')
  }
  async key(key: string) {
    this.count++
    await this.page.keyboard.press(key)
  }
  async touch(what: Locator) {
    this.count++
    if (this.touches) await what.tap()
    else await what.click()
  }
  /** What a stretch of the work has cost. */
  mark(name: string, atMost: number) {
    const cost = this.count - this.from
    this.marks.push([name, cost, atMost])
    this.from = this.count
    expect(cost, name).toBeLessThanOrEqual(atMost)
  }
  print(story: string) {
    for (const [name, cost, atMost] of this.marks) console.log(`${story}: ${name}: ${cost} inputs (at most ${atMost})`)
    console.log(`${story}: ${this.count} inputs in all`)
  }
}

/** Seven valves as a board is told, and what the sheet says of each in probing order. */
const BOARD = 'V1 6SK7, V2 6SA7, V3 6SK7, V4 6SQ7, V5 6V6, V6 6J5, V7 6X5'
const SHEET = ['V1 sheet 250 100 3 0', 'V3 sheet 250 100 3 0', 'V5 sheet 255 250 12.5 0', 'V6 sheet 140 4.5 0']
const READ = ['V1 248 96 2.9 0', 'V3 246 22 0.4 0', 'V5 251 247 4.1 6.8', 'V6 139 4.4 0']

/** 37 parts that are good, several in a sentence where they are alike, read in a sentence each where they are measured. */
const GOOD: string[] = [
  'R1 R2 R3 1M 10%',
  'R4 R5 R6 47k 10%',
  'R11 R12 R13 470k 10%',
  'R14 R15 220k 10%',
  'C1 C2 C3 .1 MFD 400V paper',
  'C11 C12 .05 MFD 400V paper',
  'C13 C14 C15 250 pF mica',
  'C21 C22 16 MFD 450V electrolytic',
  'L1 L2 field coil sheet 1k',
]
const ONE_BY_ONE: string[] = [
  'R21 330 10% V1 cathode reads 338 lifted',
  'R22 330 10% V3 cathode reads 341 lifted',
  'R23 2k2 10% V6 cathode reads 2.25k lifted',
  'R24 100k 10% V6 plate reads 104k lifted',
  'R25 68k 10% V1 screen reads 70k lifted',
  'R26 470k 10% V5 grid reads 482k lifted',
  'R27 10 meg 20% V4 grid reads 10.4M lifted',
  'C31 .1 MFD 400V polyester V1 screen reads .101 lifted',
  'C32 25 MFD 25V electrolytic V6 cathode reads 26u lifted',
  'D1 silicon drop .58 lifted',
  'R31 1k 10% V2 grid reads 1.02k lifted',
  'R32 22k 10% V2 screen reads 22.4k lifted',
  'C33 500 pF mica V2 grid',
  'P1 dial lamp 6.3V 250 mA',
]

/** What the resistors of the first sentences read. */
const READINGS = [
  ...['R1', 'R2', 'R3'].map((n) => [n, '1.03M']),
  ...['R4', 'R5', 'R6'].map((n) => [n, '47.6k']),
  ...['R11', 'R12', 'R13'].map((n) => [n, '476k']),
  ...['R14', 'R15'].map((n) => [n, '223k']),
]

test('a receiver with seven valves by the line alone, in under 250 inputs', async ({ bench, page }) => {
  test.setTimeout(240_000)
  page.setDefaultTimeout(20_000)
  await page.goto('/')
  await expect(bench.strip('R3')).toBeVisible()
  const hand = new Hand(bench, page)
  await hand.key('/')
  await hand.say('new ticket Skarholm Guillemot, mains transformer, valves, hums and plays weak')
  await expect(page.locator('.tag.on', { hasText: 'Skarholm Guillemot' })).toBeVisible()
  hand.mark('opening a ticket', 2)
  await hand.say(BOARD)
  for (const s of SHEET) await hand.say(s)
  hand.mark('the sheet of seven valves', 5)
  await hand.say(READ[0] ?? '')
  await hand.say(READ[1] ?? '')
  hand.mark('eight volts', 12)
  await hand.say(READ[2] ?? '')
  await hand.say(READ[3] ?? '')
  hand.mark('the other volts', 4)

  for (const s of [...GOOD, ...ONE_BY_ONE]) await hand.say(s)
  hand.mark('37 parts', 60)
  // The resistors are read in a row and stay.
  for (const [name, value] of READINGS) {
    await hand.say(`${name} ${value} lifted`)
    await hand.say(`${name} stays`)
  }
  hand.mark('eleven resistors read and decided', 22)

  // The screen of V3 is low: its feed has climbed.
  await hand.say('R41 68k 10% 1W carbon composition V3 screen reads 310k lifted')
  await hand.say('R41 replace')
  await hand.say('R41 fitted 68k 5% 2W metal film, measured 68.2k')
  await hand.say('R41 as before, 98 V at pin 6')
  hand.mark('a part from sentence to proof', 5)
  // The grid of V5 is positive: its coupling capacitor leaks.
  await hand.say('C41 .02 MFD 400V paper coupling V4 plate to V5 grid leaks 12uA at 250V lifted')
  await hand.say('C41 replace')
  await hand.say('C41 fitted 22n 630V polypropylene, measured 22.3n')
  await hand.say('C41 plays full, grid at 0 V')
  // It hums still: the first filter is dry.
  await hand.say('C42 16 MFD 450V electrolytic reservoir reads 3.1u lifted')
  await hand.say('C42 replace')
  await hand.say('C42 fitted 22 MFD 450V electrolytic, measured 22.8u')
  await hand.say('C42 plays, hum gone, 255 V at pin 3 of V5')
  await hand.say('R41 better, 98 V at pin 6')
  hand.mark('three faults', 14)
  hand.print('by the line')

  expect(hand.count).toBeLessThan(250)
  for (const name of ['R41', 'C41', 'C42']) await expect(bench.strip(name)).toContainText('Proven')
  await expect(page.locator('.strip')).toHaveCount(40)
})

test('a hand-typed fit and a branch of six parts take few inputs', async ({ bench, page }) => {
  page.setDefaultTimeout(20_000)
  const hand = new Hand(bench, page)
  await bench.ticket('Skarholm Turnstone', ['R3 22k 10% 1W dropper reads 41k lifted', 'R3 replace'])
  await page.keyboard.press('/')
  await hand.say('R3 fitted 22k 5% 2W metal film, measured 21.9k')
  hand.mark('a hand-typed fit', 3)
  await expect(bench.strip('R3')).toContainText('Prove it')
  await page.keyboard.press('Escape')
  await hand.touch(page.getByRole('button', { name: 'Guilty part', exact: true }))
  const job = page.getByRole('region', { name: 'The job' })
  const write = async (label: string, text: string) => {
    hand.count++
    await job.getByLabel(label, { exact: true }).fill(text)
  }
  await write('Called', 'screens')
  await write('Rail by the sheet', '250')
  await write(
    'Parts, one a line: name, from, to, value; W is a track, J a joint, S a switch, F a fuse, D a diode that conducts',
    'R1 from rail to line 1k 2W\nR2 from line to screen 47k\nR3 from screen to ground 22k\nC1 screen .1u\nR4 from line to plate 100k\nV2 plate 2mA',
  )
  await hand.touch(job.getByRole('button', { name: 'Find it' }))
  await expect(job.getByRole('img').first()).toBeVisible()
  hand.mark('a branch of six parts', 8)
  hand.print('in few inputs')
})

test.describe('by touch', () => {
  test.use({ hasTouch: true, viewport: { width: 820, height: 1180 } })

  test('the same receiver by touch on a tablet', async ({ bench, page }) => {
    test.setTimeout(240_000)
    page.setDefaultTimeout(20_000)
    await page.goto('/')
    await expect(bench.strip('R3')).toBeVisible()
    const hand = new Hand(bench, page, true)
    const button = (name: string | RegExp) => page.getByRole('button', { name })
    const write = async (label: string, text: string) => {
      hand.count++
      await page.getByLabel(label, { exact: true }).fill(text)
    }
    await hand.touch(button(/^New ticket|^\+/).first())
    await write('the set', 'Skarholm Eider')
    await write('what is wrong with it', 'hums and plays weak')
    await hand.touch(button('Open the ticket'))
    await expect(page.locator('.tag.on', { hasText: 'Skarholm Eider' })).toBeVisible()
    hand.mark('opening a ticket', 4)

    await hand.touch(page.getByRole('button', { name: 'Voltages', exact: true }))
    await hand.touch(button('Add a valve or a board'))
    await write('or a whole board, in the order in which you probe it', BOARD)
    // The server takes its time: the next form is sent meanwhile, and is not lost.
    await page.route('**/chart/valves', async (r) => {
      await new Promise((later) => setTimeout(later, 1500))
      await r.continue()
    })
    await hand.touch(button('Put it in'))
    await hand.touch(button('New set'))
    await write('Mains voltage now', '228')
    await hand.touch(button('Begin'))
    hand.mark('a board and a set of readings', 7)
    for (const [pin, volts] of [
      ['V1 pin 8', '248'], ['V1 pin 6', '96'], ['V1 pin 5', '2.9'], ['V1 pin 4', '0'],
      ['V3 pin 8', '246'], ['V3 pin 6', '22'], ['V3 pin 5', '0.4'], ['V3 pin 4', '0'],
    ] as const) {
      const field = page.getByLabel(`${pin}, read now`)
      hand.count++
      await field.fill(volts)
      await field.press('Enter')
    }
    await expect(page.getByLabel('V3 pin 4, read now')).toHaveValue('0 V')
    hand.mark('eight volts', 12)
    for (const s of SHEET) await hand.say(s)

    await hand.touch(page.getByRole('button', { name: 'Parts', exact: true }))
    for (const s of [...GOOD, ...ONE_BY_ONE]) await hand.say(s)
    hand.mark('the sheet and 37 parts', 60)
    const station = bench.station
    for (const [told, fitted, measured, seen] of [
      ['R41 68k 10% 1W carbon composition V3 screen reads 310k lifted', '68k 5% 2W metal film', '68.2k', 'better, 98 V at pin 6'],
      ['C41 .02 MFD 400V paper coupling V4 plate to V5 grid leaks 12uA at 250V lifted', '22n 630V polypropylene', '22.3n', 'plays full, grid at 0 V'],
      ['C42 16 MFD 450V electrolytic reservoir reads 3.1u lifted', '22 MFD 450V electrolytic', '22.8u', 'plays, hum gone'],
    ] as const) {
      await hand.say(told)
      const name = told.slice(0, 3)
      await expect(station.getByRole('heading', { name: new RegExp(`^${name}`) })).toBeVisible()
      await hand.touch(station.getByRole('button', { name: /^Decide: Replace/ }))
      await hand.touch(station.getByRole('button', { name: 'Something else' }))
      hand.count += 2
      await station.getByLabel('what goes in').fill(fitted)
      await station.getByLabel('it measures').fill(measured)
      await hand.touch(station.getByRole('button', { name: /^(Taken and f|F)itted/ }))
      hand.count++
      await station.getByLabel('what did you see, hear and measure?').fill(seen)
      await hand.touch(station.getByRole('button', { name: /^Better/ }))
      await expect(bench.strip(name)).toContainText('Proven')
    }
    hand.mark('three faults', 27)
    hand.print('by touch')
    expect(hand.count).toBeLessThan(250)
    await expect(page.locator('.strip')).toHaveCount(40)
  })
})
