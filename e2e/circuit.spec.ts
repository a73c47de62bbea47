import { expect, test } from './bench'

/** A circuit at its pins, by keyboard: fed first, then what hangs on the pin that is off, and the circuit last. */
test('a circuit is checked at its pins before it is condemned', async ({ bench, page }) => {
  await bench.ticket('Gannet harbour speaker', ['U1 TBA820M', 'U2 KX4410'], { source: 'battery', devices: 'transistors' })
  await bench.strip('U1').click()
  await page.keyboard.press('2')
  await expect(bench.station).toContainText('audio output · fed 3 V to 16 V')
  const pin = (n: number) => bench.station.getByLabel(new RegExp(`^pin ${n}, .*the meter shows`))
  // The digit leads to the step; once more, and its field is entered.
  await page.keyboard.press('2')
  await expect(pin(6)).toBeFocused()
  await page.keyboard.type('nine')
  await page.keyboard.press('Enter')
  await expect(bench.station.getByRole('alert')).toBeVisible()
  await expect(pin(6)).toHaveValue('nine')
  for (const [at, next, volts] of [[6, 4, '8.8'], [4, 5, '0'], [5, 3, '7.6'], [3, 1, '.02']] as const) {
    await expect(pin(at)).toBeFocused()
    await pin(at).fill(volts)
    await page.keyboard.press('Enter')
    await expect(pin(next)).toBeFocused()
  }
  await expect(bench.station.getByRole('row', { name: /5 output/ })).toContainText('4.4 V ±1.08 V7.6 V')
  await expect(bench.station).toContainText('lift the capacitor to the loudspeaker')
  await bench.station.getByText('what hangs on it lifted').click()
  await pin(5).fill('4.5')
  await pin(5).press('Enter')
  await expect(bench.station).toContainText('(lifted 4.5 V)')
  await page.keyboard.press('Escape')
  await page.keyboard.press('3')
  await expect(bench.verdict).toContainText('Watch')
  await expect(bench.station).toContainText('pulls it off, not the circuit')
  await page.keyboard.press('4')
  await expect(bench.station).toContainText('the same type number')
  // The line takes a pin as well; of an unknown type nothing is condemned.
  await bench.say('U2 pin 3 1.25V')
  await page.keyboard.press('2')
  await expect(bench.station).toContainText('No table knows this type')
  await bench.station.getByLabel('shows').fill('4')
  await bench.station.getByRole('button', { name: 'Take the reading' }).press('Enter')
  await expect(bench.station.getByRole('alert')).toContainText('say at which pin of U2')
  await expect(bench.station).toContainText('hold each pin against the sheet')
})
