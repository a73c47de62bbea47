import { expect, test } from './bench'

test('five readings in a row with the numeric pad alone', async ({ bench, page }) => {
  await bench.ticket('Numeric pad', ['R4 910 10%'])
  for (const value of ['899', '902', '905', '906', '907']) {
    // Shift is what Playwright's keyboard has in place of Num Lock.
    for (const digit of value) await page.keyboard.press(`Shift+Numpad${digit}`)
    await page.keyboard.press('NumpadEnter')
    await expect(bench.understood).toContainText(`Taken R4: measures ${value} Ω`)
  }
  await page.keyboard.press('Escape')
  await page.keyboard.press('2')
  await expect(bench.station.locator('.readings li')).toHaveCount(5)
  await expect(bench.station.getByRole('img', { name: /readings in order: 899 Ω, 902 Ω/ })).toBeVisible()
})

test('five parts in a row with the numeric pad alone', async ({ bench, page }) => {
  await bench.ticket('Numeric pad row', ['R1 1k 5%', 'R2 2k 5%', 'R3 3k 5%', 'R4 3900 5%', 'R5 5100 5%'])
  for (const [name, value] of [['R1', '1010'], ['R2', '2020'], ['R3', '3010'], ['R4', '3905'], ['R5', '5150']] as const) {
    await expect(page.locator('.strip[aria-current=true]')).toContainText(name)
    for (const digit of value) await page.keyboard.press(`Shift+Numpad${digit}`)
    await page.keyboard.press('NumpadEnter')
    await expect(bench.understood).toContainText(`Taken ${name}: measures`)
    await page.keyboard.press('NumpadAdd')
  }
  await expect(bench.strip('R5')).toContainText('5.15')
  await page.keyboard.press('NumpadSubtract')
  await expect(page.locator('.strip[aria-current=true]')).toContainText('R4')
})

test('whoever types right after a dialog keeps the focus', async ({ bench, page }) => {
  await page.goto('/')
  await expect(bench.strip('R3')).toBeVisible()
  for (let round = 0; round < 5; round++) {
    await page.keyboard.press('?')
    await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible()
    await page.waitForTimeout(60 * round)
    await page.keyboard.press('Escape')
    await page.keyboard.press('/')
    await page.keyboard.type('R3 = 71.5k', { delay: 25 })
    await expect(bench.line).toHaveValue('R3 = 71.5k')
    await bench.line.fill('')
    await page.keyboard.press('Escape')
    await expect(bench.line).not.toBeFocused()
  }
})

test('another school, another verdict; the decision that was taken keeps its reasons', async ({ bench, page }) => {
  await bench.ticket('Two schools', ['R4 910 10% = 1050 lifted'])
  await page.keyboard.press('3')
  await expect(bench.verdict).toContainText('Replace')
  await page.keyboard.press('e')
  const dialog = page.getByRole('dialog', { name: 'Ticket' })
  await dialog.locator('.el-select', { hasText: 'test first' }).click()
  await page.getByRole('option', { name: 'keep original' }).click()
  await dialog.getByRole('button', { name: 'Save the changes' }).click()
  await expect(bench.verdict).toContainText('Watch')
  await expect(bench.station).toContainText('rests on keep original')
  await page.keyboard.press('Enter')
  await expect(bench.station).toContainText('Decided Watch')
})

test('the keys are shown, the shelf and the tray are walked by keyboard', async ({ bench, page }) => {
  await page.goto('/')
  await expect(bench.strip('R3')).toBeVisible()
  await page.keyboard.press('?')
  const dialog = page.getByRole('dialog', { name: 'Keys' })
  await expect(dialog).toContainText('decide otherwise')
  await page.keyboard.press('Escape')
  await expect(dialog).toBeHidden()
  const selected = page.locator('.strip[aria-current=true]')
  await expect(selected).toContainText('R3')
  await page.keyboard.press('ArrowDown')
  await expect(selected).toContainText('R6')
  await page.keyboard.press('ArrowUp')
  await page.keyboard.press('ArrowUp')
  await expect(selected).toContainText('R3')
  await page.keyboard.press(']')
  await expect(page.locator('.tag[aria-current=page]')).toContainText('Corvane Sounder 3')
  await page.keyboard.press('[')
  await expect(page.locator('.tag[aria-current=page]')).toContainText('Tidewright Heron 7')
})

test('what is open is in the address, and daylight stays', async ({ bench, page }) => {
  await page.goto('/')
  await bench.strip('R9').click()
  await page.keyboard.press('3')
  await expect(page).toHaveURL(/\/R9\/judge$/)
  await page.getByRole('button', { name: 'Day' }).click()
  await page.reload()
  await expect(page.locator('.strip[aria-current=true]')).toContainText('R9')
  await expect(bench.verdict).toContainText('Replace')
  await expect(page.locator('html')).toHaveClass(/day/)
  await page.getByRole('button', { name: 'Night' }).click()
})

test('every place that can be reached by Tab has a name and a visible focus', async ({ bench, page }) => {
  await page.goto('/')
  await expect(bench.strip('R3')).toBeVisible()
  await page.keyboard.press('2')
  await page.keyboard.press('Escape')
  const seen = new Set<string>()
  for (let i = 0; i < 40; i++) {
    await page.keyboard.press('Tab')
    const at = await page.evaluate(() => {
      const e = document.activeElement
      if (!(e instanceof HTMLElement || e instanceof SVGElement) || e === document.body) return null
      const labels = 'labels' in e ? [...((e as HTMLInputElement).labels ?? [])].map((l) => l.textContent) : []
      const name = e.getAttribute('aria-label') ?? (labels.join(' ').trim() || e.textContent?.trim() || '')
      // The ring is on the element, or on the box around it.
      const ring = [e, e.closest('label, .line, .el-select__wrapper, .el-input__wrapper')].some((x) => {
        if (!x) return false
        const s = getComputedStyle(x)
        return (s.outlineStyle !== 'none' && parseFloat(s.outlineWidth) > 0) || s.boxShadow !== 'none'
      })
      return { name, ring, html: e.outerHTML.slice(0, 90) }
    })
    if (!at) continue
    expect(at.name, at.html).not.toBe('')
    expect(at.ring, at.html).toBe(true)
    seen.add(at.name)
  }
  expect(seen.size).toBeGreaterThan(15)
})

test.describe('on a tablet, by touch', () => {
  test.use({ viewport: { width: 820, height: 1180 }, hasTouch: true })

  test('a part is picked, measured and judged', async ({ bench, page }) => {
    await bench.ticket('By the window', ['R4 910 10%', 'R8 120 5%'])
    await bench.strip('R8').tap()
    await bench.station.getByRole('button', { name: /^Measure/ }).tap()
    await bench.station.getByLabel('the meter shows').fill('121')
    await bench.station.getByText('lifted').tap()
    await bench.station.getByRole('button', { name: /Take the reading/ }).tap()
    await expect(bench.strip('R8')).toContainText('Keep')
    await bench.station.getByRole('button', { name: /^Judge it/ }).tap()
    await bench.station.getByRole('button', { name: /Decide: Keep/ }).tap()
    await expect(page.locator('.strip[aria-current=true]')).toContainText('R8')
    await expect(bench.station).toContainText('Decided Keep')
  })
})
