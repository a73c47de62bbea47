import { expect, test } from './bench'

test('one field finds a ticket, a part, a stage, a drawer and a rule, by the keyboard alone', async ({ bench, page }) => {
  for (const name of ['Skerry lamp set', 'Pilot boat set', 'Ferry saloon set', 'Chandler set', 'Net loft set'])
    await bench.ticket(name, ['R81 33k 10% plate load'])
  await page.keyboard.press('Escape')
  // A long shelf: the last ones lie at hand, the others in the pile, by what waits.
  await expect(page.locator('.tag:not(.pile)')).toHaveCount(3)
  await expect(page.locator('.tag[aria-current=page]')).toContainText('Net loft set')
  await page.getByRole('button', { name: /^and \d+ more/ }).press('Enter')
  const sheet = page.getByRole('dialog', { name: 'Find anything' })
  const field = sheet.getByRole('combobox')
  await expect(field).toBeFocused()
  await expect(sheet.getByRole('option').first()).toContainText('reforming')
  await expect(sheet.getByRole('option', { name: /Skerry lamp set/ })).toContainText('1 to measure')
  await page.keyboard.press('Escape')
  await expect(sheet).toBeHidden()

  const find = async (typed: string, option: RegExp) => {
    await page.keyboard.press('Control+k')
    await field.fill(typed)
    await expect(sheet.getByRole('option', { name: option })).toBeVisible()
    // The chosen one is found with the arrows, whatever else there is.
    for (let n = 0; n < 30; n++) {
      if (option.test((await sheet.locator('[aria-selected=true]').textContent()) ?? '')) break
      await page.keyboard.press('ArrowDown')
    }
    await page.keyboard.press('Enter')
    await expect(sheet).toBeHidden()
  }
  await find('skerry', /Skerry lamp set 1 to measure/)
  await expect(page.locator('.tag[aria-current=page]')).toContainText('Skerry lamp set')
  await find('r81', /R81 .*· Pilot boat set/)
  await expect(page.locator('.tag[aria-current=page]')).toContainText('Pilot boat set')
  await expect(bench.station.getByText('R81').first()).toBeVisible()
  await find('voltages', /Voltages a stage of the job/)
  await expect(page).toHaveURL(/card=chart/)
  await find('10k', /10 kΩ/)
  await expect(page).toHaveURL(/tool=drawers/)
  await expect(page.getByRole('searchbox').first()).toHaveValue('10k')
  await find('r3', /^R3 Heat/)
  await expect(page).toHaveURL(/tool=workshop/)
  await expect(page.locator('details[open] summary').first()).toContainText('Heat')

  // From within the line as well, and nothing typed there is lost.
  await bench.line.fill('R81 = 3')
  await page.keyboard.press('Control+k')
  await field.fill('zzqx')
  await expect(sheet.getByText('Nothing is called so.')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(bench.line).toHaveValue('R81 = 3')
})

test('the keys are found by what they do', async ({ bench, page }) => {
  await bench.ticket('Which key', [])
  await page.keyboard.press('Escape')
  await page.keyboard.press('?')
  const sheet = page.getByRole('dialog', { name: 'Keys' })
  await expect(sheet.getByRole('searchbox')).toBeFocused()
  await sheet.getByRole('searchbox').fill('undo')
  await expect(sheet.locator('dt')).toHaveText(['Z'])
  await sheet.getByRole('searchbox').fill('make tea')
  await expect(sheet.getByText('No key does that.')).toBeVisible()
})
