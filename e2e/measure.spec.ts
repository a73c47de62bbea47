import { expect, test } from './bench'

test('an electrolytic by mouse: value, leakage and ESR on three dials, and what each school says', async ({ bench, page }) => {
  await bench.ticket('Three dials', ['C3 24 MFD 350V electrolytic smoothing'])
  await page.keyboard.press('2')
  const entry = bench.station.getByLabel('the meter shows')
  const take = bench.station.getByRole('button', { name: 'Take the reading' })
  await bench.station.getByText('out of circuit').click()
  await entry.fill('25.1u')
  await take.click()
  await expect(bench.station.locator('.readings li')).toHaveCount(1)
  // What nobody has read yet comes next, and the leakage wants its volts.
  await expect(bench.station.getByRole('radio', { name: 'leakage' })).toBeChecked()
  await expect(bench.station).toContainText('leakage means nothing without the voltage')
  await bench.station.getByLabel('test voltage').fill('350')
  await expect(bench.station).not.toContainText('leakage means nothing without the voltage')
  await entry.fill('.4mA')
  await take.click()
  await expect(bench.station.locator('.readings li')).toHaveCount(2)
  await expect(bench.station.getByRole('radio', { name: 'ESR' })).toBeChecked()
  await entry.fill('2.2')
  await take.click()
  await bench.station.getByRole('button', { name: 'Judge it' }).click()
  await expect(bench.verdict).toContainText('Keep')
  await expect(bench.station.getByRole('img', { name: /^capacitance: 25.1 µF, limit 19.2 µF to 36 µF/ })).toBeVisible()
  await expect(bench.station.getByRole('img', { name: /^leakage current: 400 µA, limit/ })).toBeVisible()
  await expect(bench.station.getByRole('img', { name: /^ESR: 2.2 Ω, limit/ })).toBeVisible()
  await expect(bench.station).toContainText('the older military limit')
  await expect(bench.station.locator('.schools')).toContainText(/replace on sight\s*Replace/)
  await expect(bench.station.getByLabel('would change it')).toContainText('replace above')
})

test('a leak on a grid by keyboard: the sum, the fact that it depends on, and what would change it', async ({ bench, page }) => {
  await bench.ticket('Grid leak', ['C9 .022 MFD 400V moulded paper coupling'])
  await bench.say('C9 leak .7uA @400 lifted')
  await page.keyboard.press('3')
  await expect(bench.verdict).toContainText('Watch')
  await expect(bench.station).toContainText('keep if the grid resistor is under')
  const field = bench.station.getByLabel('grid resistor', { exact: true })
  await field.fill('lots')
  await page.keyboard.press('Enter')
  await expect(bench.station.getByRole('alert')).toContainText("'lots' is not a number")
  await expect(field).toHaveValue('lots')
  await field.fill('1M')
  await page.keyboard.press('Enter')
  await expect(bench.verdict).toContainText('Replace')
  await expect(bench.station).toContainText('700 nA × 1 MΩ = 0.699 V on a grid whose bias is not known: too much, 0.25 V allowed')
  await expect(bench.station.getByLabel('would change it')).toContainText('watch below 250')
  // The same leak on a small resistor is harmless.
  await bench.say('C9 grid 47k bias -9')
  await page.keyboard.press('3')
  await expect(bench.verdict).toContainText('Watch')
  await expect(bench.verdict).toContainText('warm it and test its leakage again')
  await expect(bench.station).toContainText('on a grid biased at −9 V: harmless')
  await bench.say('C9 leak .7uA @400 lifted hot')
  await page.keyboard.press('3')
  await expect(bench.verdict).toContainText('Keep')
})

test('the traps are told where the hand goes, before the reading', async ({ bench, page, request }) => {
  const way = (name: string, quantity: string, more: object) => ({ name, quantity, mode: 'dc', ranges: [], ...more })
  const tester = {
    name: `Trap tester ${crypto.randomUUID().slice(0, 8)}`,
    kind: 'leakage tester',
    ways: [
      way('right', 'leakage_current', { setting: 'paper' }),
      way('wrong', 'leakage_current', { setting: 'electrolytic' }),
      way('R 120', 'resistance', { mode: 'ac', test_frequency: '120' }),
      way('ESR 100k', 'esr', { mode: 'ac', test_frequency: '100k' }),
    ],
  }
  expect((await request.post('/api/instruments', { data: tester })).status()).toBe(201)
  await bench.ticket('Traps', ['C1 .05 MFD 400V wax paper', 'C2 50 MFD 25V electrolytic', 'L1 choke sheet 6H', 'L1 sheet 180 ohm', 'R1 4.7 5%'])
  const traps = bench.station.locator('.traps')
  const choose = async (name: string) => {
    await bench.station.locator('.how .el-select').click()
    await page.getByRole('option', { name: `${tester.name} · ${name}` }).click()
  }
  await bench.strip('C1').click()
  await page.keyboard.press('2')
  await bench.station.getByText('lifted', { exact: true }).click()
  await expect(traps).toContainText('V across a part that works at 400 V')
  await bench.station.getByText('leakage', { exact: true }).click()
  await choose('wrong')
  await expect(traps).toContainText('the switch stood on electrolytic: it passes bad paper parts')
  await choose('right')
  await expect(traps).not.toContainText('electrolytic')
  await bench.station.getByLabel('test voltage').fill('90')
  await expect(traps).toContainText('90 V and not 400 V')
  await bench.strip('C2').click()
  await page.keyboard.press('2')
  await expect(traps).toContainText('To free one end: lift one end')
  await expect(traps).toContainText('under 5 V first, by the meter')
  await expect(traps).toContainText('in circuit this is no measurement')
  await bench.station.getByText('ESR', { exact: true }).click()
  await choose('ESR 100k')
  await expect(traps).toContainText('passes parts that a limit at 120 Hz would not')
  await bench.strip('L1').click()
  await page.keyboard.press('2')
  await choose('R 120')
  // 2π × 120 Hz × 6 H is 4.52 kΩ, and 180 Ω of copper hardly add to it.
  await expect(traps).toContainText('6 H at 120 Hz makes 4.527 kΩ')
  await bench.strip('R1').click()
  await bench.say('R1 = 5.4 lifted')
  await page.keyboard.press('3')
  await expect(bench.station).toContainText('0.2 Ω of leads would be 4 % of it')
})

test('a mistaken reading is voided with a reason and stays on the list', async ({ bench, page }) => {
  await bench.ticket('Struck out', ['R6 15k 10% = 15.2k lifted', 'R6 = 27k lifted'])
  await expect(bench.strip('R6')).toContainText('Replace')
  await page.keyboard.press('2')
  await bench.station.getByRole('button', { name: 'Void this reading: 27 kΩ' }).click()
  await bench.station.getByRole('button', { name: 'Void this reading', exact: true }).click()
  await expect(bench.station.getByRole('alert')).toContainText('say why it does not count')
  await bench.station.getByLabel('why does it not count?').fill('tips on the neighbour')
  await page.keyboard.press('Enter')
  await expect(bench.station.locator('.readings li').first()).toContainText('voided: tips on the neighbour')
  await expect(bench.station.locator('.readings li')).toHaveCount(2)
  await expect(bench.strip('R6')).toContainText('15.2')
  await expect(bench.strip('R6')).toContainText('Keep')
})

test('a cooked resistor asks what fed too much through it, until somebody answers', async ({ bench, page }) => {
  await bench.ticket('Cooked', ['R7 33k 10% 1W screen feed', 'C5 .1 MFD 400V wax paper screen bypass fed by R7', 'R7 = 33.2k lifted'])
  await bench.strip('R7').click()
  await page.keyboard.press('1')
  await bench.station.getByRole('button', { name: 'scorched' }).click()
  await bench.station.getByRole('button', { name: 'Save' }).click()
  const question = bench.station.getByRole('group', { name: 'Why did it fail?' })
  await expect(question).toContainText('What fed too much through R7?')
  await expect(bench.strip('R7')).toContainText('?')
  await page.keyboard.press('3')
  await expect(bench.verdict).toContainText('Watch')
  await expect(bench.verdict).toContainText('find out why it cooked')
  await page.reload()
  await expect(question).toBeVisible()
  await question.getByRole('button', { name: 'Answer' }).click()
  await question.getByRole('button', { name: 'It was C5' }).click()
  await expect(question).toBeHidden()
  await page.reload()
  await expect(bench.verdict).toBeVisible()
  await expect(question).toBeHidden()
})

test('the tray in its orders, what is to be measured and how to free it, a pair side by side', async ({ bench, page }) => {
  await bench.ticket('Orders', [
    'R1 270 10% cathode',
    'R2 1M 20% grid leak',
    'R3 47k 10% feed = 90k lifted',
    'R4 270 10% cathode',
    'R4 pair R1',
    'R1 = 268 lifted',
    'R4 = 271 lifted',
  ])
  const names = () => page.locator('.strip .ref').allInnerTexts()
  const first = async () => (await names()).map((n) => n.slice(0, 2))
  await expect.poll(first).toEqual(['R1', 'R4', 'R2', 'R3'])
  await page.keyboard.press('o')
  await expect.poll(first).toEqual(['R3', 'R2', 'R1', 'R4'])
  await page.keyboard.press('o')
  await expect.poll(first).toEqual(['R1', 'R4', 'R2', 'R3'])
  await page.keyboard.press('o')
  await page.keyboard.press('m')
  await expect.poll(first).toEqual(['R2'])
  await expect(bench.strip('R2')).toContainText('pull its valve: the coupling capacitor blocks')
  await page.keyboard.press('m')
  await page.keyboard.press('f')
  await page.keyboard.type('cathode')
  await expect.poll(first).toEqual(['R1', 'R4'])
  await page.keyboard.type(' nowhere')
  await expect(page.getByText('No part on the tray fits that.')).toBeVisible()
})

test('an instrument is entered from its handbook, and a copy of a school with its own numbers is followed', async ({ bench, page }) => {
  const name = `Loft meter ${Date.now() % 100000}`
  await bench.ticket('Own rules', ['R4 68k 10%'])
  await page.keyboard.press('w')
  await page.getByRole('button', { name: '+ Add an instrument' }).click()
  await page.getByLabel('name', { exact: true }).fill(name)
  await page.getByRole('button', { name: '+ Add a way of measuring' }).click()
  await page.getByLabel('called').fill('ohms')
  await page.getByRole('button', { name: '+ Add a range' }).click()
  await page.getByLabel('up to').fill('200k')
  await page.getByLabel('± % of reading').fill('0.5')
  await page.getByLabel('+ counts').fill('1')
  await page.getByLabel('a count is worth').fill('lots')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('alert')).toContainText("'lots' is not a number")
  await page.getByLabel('a count is worth').fill('0.1k')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('button', { name: new RegExp(name) })).toContainText('±(0.5 % + 1 count)')

  await page.getByRole('button', { name: 'Schools', exact: true }).click()
  await page.getByRole('button', { name: 'Make a copy to change' }).first().click()
  const sheet = page.getByRole('dialog')
  const rules = `Rules ${Date.now() % 100000}`
  await sheet.getByLabel('name').fill(rules)
  await sheet.getByLabel('share of a limit from which a part is watched').fill('2')
  await sheet.getByRole('button', { name: 'Save' }).click()
  await expect(sheet.getByRole('alert')).toContainText('10 % to 100 % is possible')
  await sheet.getByLabel('share of a limit from which a part is watched').fill('20')
  await sheet.getByRole('button', { name: 'Save' }).click()
  await expect(sheet).toBeHidden()
  await expect(page.getByRole('columnheader', { name: rules })).toBeVisible()
  await page.keyboard.press('Escape')
  await bench.say('R4 = 70k lifted')
  await page.keyboard.press('3')
  await expect(bench.verdict).toContainText('Keep')
  await page.keyboard.press('e')
  const ticket = page.getByRole('dialog', { name: 'Ticket' })
  await ticket.locator('.el-select', { hasText: 'test first' }).click()
  await page.getByRole('option', { name: new RegExp(rules) }).click()
  await ticket.getByRole('button', { name: 'Save the changes' }).click()
  await expect(bench.verdict).toContainText('Watch')
  await expect(bench.station).toContainText(`rests on ${rules}`)
})

test('a reading comes over the wire, is looked at and taken; a meter that is gone says so', async ({ bench, page }) => {
  const meter = (name: string, address: string) =>
    bench.api.post('/api/instruments', {
      data: { name, kind: 'multimeter', address, ways: [{ name: 'ohms', quantity: 'resistance', mode: 'dc' }] },
    })
  expect((await meter('Wire meter', process.env.OWL_METER ?? '')).status()).toBe(201)
  expect((await meter('Dead meter', '127.0.0.1:9')).status()).toBe(201)
  await bench.ticket('Wired meter', ['R6 3.3k 10%'])
  await page.keyboard.press('2')
  const field = bench.station.getByLabel('the meter shows')
  const pick = async (name: RegExp) => {
    await bench.station.locator('.el-select').first().click()
    await page.getByRole('option', { name }).click()
  }
  await bench.station.getByText('lifted', { exact: true }).click()
  await pick(/Dead meter/)
  await bench.station.getByRole('button', { name: 'From the meter' }).click()
  await expect(bench.station.getByRole('alert')).toContainText('nothing answers at 127.0.0.1:9')
  await pick(/Wire meter/)
  await bench.station.getByRole('button', { name: 'From the meter' }).click()
  await expect(field).toHaveValue(/^3\.4\d* kΩ$/)
  await expect(bench.station).toContainText('Wire meter shows 3.4')
  await page.keyboard.press('Enter')
  await expect(field).toHaveValue('')
  await expect(bench.strip('R6')).toContainText('3.4')
})
