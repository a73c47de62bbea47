import { expect, test } from './bench'

const sizes = [
  { width: 1280, height: 800 },
  { width: 1920, height: 1080 },
  { width: 820, height: 1180 },
]

for (const size of sizes) {
  test(`nothing is cut off at ${size.width}x${size.height}`, async ({ bench, page }) => {
    await page.setViewportSize(size)
    await page.goto('/')
    await expect(bench.strip('R3')).toBeVisible()
    for (const step of ['1', '2', '3', '4', '5']) {
      await page.keyboard.press('Escape')
      await page.keyboard.press(step)
      await expect(bench.station.locator('[aria-current=step]')).toContainText(step)
      const wide = await page.evaluate(() => {
        const root = document.documentElement
        const boxes = [...document.querySelectorAll('.station .body, .tray .rows')]
        return [root, ...boxes].filter((e) => e.scrollWidth > e.clientWidth + 1).map((e) => e.className || 'page')
      })
      expect(wide).toEqual([])
    }
    // The main button of every step stays in sight, and is large enough for greasy fingers.
    await page.keyboard.press('Escape')
    await page.keyboard.press('3')
    const box = await bench.station.locator('.foot .el-button--primary').boundingBox()
    expect(box?.height ?? 0).toBeGreaterThanOrEqual(40)
    expect((box?.y ?? 9999) + (box?.height ?? 0)).toBeLessThan(size.height)
  })
}

for (const size of sizes) {
  test(`the reader and its cards fit at ${size.width}x${size.height}`, async ({ bench, page }) => {
    await page.setViewportSize(size)
    await page.goto('/')
    await expect(bench.strip('R3')).toBeVisible()
    await page.keyboard.press('r')
    const reader = page.getByRole('region', { name: 'Reader' })
    const field = reader.getByLabel('type what is printed, or click the part')
    for (const text of ['red red yellow white brown blue', '▲30/350 ■20/350 plain 20/25', 'RNC60H2492FS', 'brown grey brown']) {
      await field.fill(text)
      await expect(reader.getByRole('list', { name: 'It says' }).getByRole('listitem').first()).toBeVisible()
      const wide = await page.evaluate(() => {
        const boxes = [document.documentElement, ...document.querySelectorAll('.hand, .says-it, .list')]
        return boxes.filter((e) => e.scrollWidth > e.clientWidth + 1).map((e) => e.className || 'page')
      })
      expect(wide, text).toEqual([])
      // The words below the colours do not run into each other, nor out of the drawing.
      const words = await reader.locator('.stage text.under').evaluateAll((all) =>
        all.map((e) => e.getBoundingClientRect()).map((r) => ({ left: r.left, right: r.right, top: r.top, bottom: r.bottom })),
      )
      for (const [i, a] of words.entries()) {
        for (const b of words.slice(i + 1)) {
          const apart = a.right <= b.left || b.right <= a.left || a.bottom <= b.top + 2 || b.bottom <= a.top + 2
          expect(apart, `${text}: ${JSON.stringify([a, b])}`).toBe(true)
        }
      }
    }
    for (const button of await reader.getByRole('group', { name: 'colours' }).getByRole('button').all()) {
      const box = await button.boundingBox()
      expect(Math.min(box?.width ?? 0, box?.height ?? 0)).toBeGreaterThanOrEqual(40)
    }
    await page.goto(page.url().replace('tool=reader', 'tool=cards'))
    await expect(page.getByRole('article')).toBeVisible()
    expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true)
  })
}

/** WCAG 2.1, 1.4.3: contrast of text is at least 4.5:1, measured as painted, by night and by day. */
for (const light of ['night', 'day']) {
  test(`text can be read by ${light}`, async ({ bench, page }) => {
    await page.goto('/')
    await expect(bench.strip('R3')).toBeVisible()
    if (light === 'day') await page.getByRole('button', { name: 'Day' }).click()
    for (const step of ['1', '2', '3', '4']) {
      await page.keyboard.press('Escape')
      await page.keyboard.press(step)
      await page.waitForTimeout(400)
      await expect.poll(() => page.evaluate(faint), { message: `step ${step}` }).toEqual([])
    }
    await page.keyboard.press('Escape')
    await page.keyboard.press('r')
    await page.keyboard.type('brown grey brown')
    await expect(page.getByRole('list', { name: 'It says' })).toBeVisible()
    await expect.poll(() => page.evaluate(faint), { message: 'reader' }).toEqual([])
    await page.getByRole('button', { name: 'Bench cards' }).click()
    await expect(page.getByRole('article')).toBeVisible()
    await expect.poll(() => page.evaluate(faint), { message: 'bench cards' }).toEqual([])
    await page.goto('/')
    await expect(bench.strip('R3')).toBeVisible()
    await page.keyboard.press('v')
    const reform = page.getByRole('region', { name: 'Reforming' })
    await expect(reform.getByRole('status')).toBeVisible()
    await expect.poll(() => page.evaluate(faint), { message: 'reforming' }).toEqual([])
    await reform.locator('aside').getByRole('button', { name: /C7/ }).last().click()
    await expect(reform.getByLabel('Highest setting')).toBeVisible()
    await expect.poll(() => page.evaluate(faint), { message: 'a reform’s plan' }).toEqual([])
    await page.goto('/')
    await expect(bench.strip('R3')).toBeVisible()
    await page.keyboard.press('t')
    const desk = page.getByRole('region', { name: 'Transistor desk' })
    const six = desk.getByLabel(/what it shows/)
    await expect(six).toBeFocused()
    for (const text of ['0.66', '', '', '', '', '0.65']) {
      await page.keyboard.type(text)
      await page.keyboard.press('Enter')
    }
    await expect(desk.getByTestId('identified')).toBeVisible()
    await expect.poll(() => page.evaluate(faint), { message: 'three leads' }).toEqual([])
    for (const [tab, seen] of [['What goes in', /in the drawers|to buy/], ['Pairs', /gain to the right/], ['Bought parts', /Wipe the print/], ['Types', /germanium/]] as const) {
      await desk.getByRole('navigation').getByRole('button', { name: tab }).click()
      if (tab === 'What goes in') await desk.getByLabel('the original').fill('AC152')
      await expect(desk.getByText(seen).first()).toBeVisible()
      await page.waitForTimeout(400)
      await expect.poll(() => page.evaluate(faint), { message: tab }).toEqual([])
      for (const [width, height] of [[820, 1180], [1280, 800]] as const) {
        await page.setViewportSize({ width, height })
        const wide = await page.evaluate(() =>
          [document.documentElement, ...document.querySelectorAll('.desk')]
            .filter((e) => e.scrollWidth > e.clientWidth + 1)
            .map((e) => e.className || 'page'),
        )
        expect(wide, `${tab} at ${width}`).toEqual([])
      }
    }
    for (const [width, height] of [[820, 1180], [1920, 1080]] as const) {
      await page.setViewportSize({ width, height })
      expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true)
    }
  })
}

/** The texts on the page whose colour is too near to the background behind them. */
function faint(): string[] {
  const canvas = document.createElement('canvas').getContext('2d', { willReadFrequently: true })
  if (!canvas) return ['no canvas']
  const rgba = (css: string) => {
    canvas.clearRect(0, 0, 1, 1)
    canvas.fillStyle = css
    canvas.fillRect(0, 0, 1, 1)
    return [...canvas.getImageData(0, 0, 1, 1).data]
  }
  const luminance = (c: number[]) => {
    const [r = 0, g = 0, b = 0] = c.slice(0, 3).map((v) => {
      const s = v / 255
      return s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4
    })
    return 0.2126 * r + 0.7152 * g + 0.0722 * b
  }
  /** The lightest and darkest colours that lie behind an element: solid ones and gradient stops. */
  const behind = (e: Element | null): number[][] => {
    for (let at = e; at; at = at.parentElement) {
      const style = getComputedStyle(at)
      const stops = style.backgroundImage.match(/rgba?\([^)]*\)|#[0-9a-f]+/gi)?.map(rgba).filter((c) => c[3] === 255)
      if (stops?.length) return stops
      const solid = rgba(style.backgroundColor)
      if (solid[3] === 255) return [solid]
    }
    return [[255, 255, 255, 255]]
  }
  const bad: string[] = []
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const text = node.textContent?.trim()
    const e = node.parentElement
    if (!text || !e || e.closest('svg, .sr, :disabled, .is-disabled') || !e.checkVisibility()) continue
    const ink = luminance(rgba(getComputedStyle(e).color))
    const worst = Math.min(
      ...behind(e).map((b) => {
        const ground = luminance(b)
        return (Math.max(ink, ground) + 0.05) / (Math.min(ink, ground) + 0.05)
      }),
    )
    if (worst < 4.5) bad.push(`${text.slice(0, 30)} ${worst.toFixed(2)}`)
  }
  return [...new Set(bad)]
}
