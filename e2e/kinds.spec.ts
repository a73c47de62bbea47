import { expect, test } from './bench'

/** By mouse: a valve from the chart over the tester and the running set to its successor and the proof. */
test('a valve is tested, told from its coupling capacitor, replaced and proven', async ({ bench, page }) => {
  page.setDefaultTimeout(20_000)
  await bench.stock('valve,,6AQ5,,,,,,2,"valve shelf of gas",new,3.10,0\n')
  await bench.ticket('Skerry lamp receiver', ['V3 EL90', 'V3 EL90 output tests 88%'])
  await bench.strip('V3').click()
  await bench.station.getByRole('button', { name: /^Measure/ }).click()
  await bench.station.getByText('EL90').first().click()
  // With the set on: the cautions are those of a live probe.
  await bench.station.getByText('volts at a pin', { exact: true }).click()
  await expect(bench.station.locator('.cautions')).toContainText('The probe goes in live')
  const shows = bench.station.getByLabel('the meter shows')
  await shows.fill('2.6')
  await shows.press('Enter')
  await expect(bench.station.getByRole('alert')).toContainText('say at which pin of V3')
  await bench.station.getByText(/^1 grid 1/).click()
  await shows.press('Enter')
  await expect(bench.station).toContainText("lift the coupling capacitor's grid end")
  await bench.station.getByText('lifted', { exact: true }).click()
  await shows.fill('2.4')
  await shows.press('Enter')
  await expect(bench.strip('V3')).toContainText('Replace')
  await bench.station.getByText('emission', { exact: true }).click()
  await expect(bench.station.locator('.cautions')).toContainText('Unplugged, discharged')
  await bench.station.getByRole('button', { name: /^Judge/ }).first().click()
  await expect(bench.verdict).toContainText('Replace')
  await expect(bench.station).toContainText('gas')
  await bench.station.getByRole('button', { name: /^Decide: Replace/ }).click()
  await expect(bench.station.locator('.choice.on')).toContainText('6AQ5 valve')
  await expect(bench.station.locator('.choice.on')).toContainText('the same valve under another name')
  await bench.station.getByLabel('its emission, if tested').fill('95%')
  await bench.station.getByRole('button', { name: /^Taken and fitted/ }).click()
  await expect(bench.strip('V3')).toContainText('6AQ5')
  await bench.say('V3 proven plays loud and clean')
  await expect(bench.strip('V3')).toContainText('Proven')
})

/** By keyboard alone: each of the other kinds from its sentence to its proof. */
test('a fuse, a contact and a loudspeaker go from a sentence to a proof by keys', async ({ bench, page }) => {
  page.setDefaultTimeout(20_000)
  await bench.stock(
    'fuse,,T,630 mA,,250 V,,,4,"tin of keys",new,0.10,0\n' +
      'fuse,,T,400 mA,,250 V,,,4,"tin of keys",new,0.10,0\n' +
      'switch,,toggle 2P,,,250 V,,,2,"tin of keys",new,1.10,0\n' +
      'loudspeaker,,,8 Ω,,,6 W,,1,"tin of keys",new,9.00,0\n',
  )
  await bench.ticket('Skerry chart table set', [])
  for (const [name, said, fits, taken] of [
    ['F2', ['F2 T400mA 250V blown'], '400 mA T 250 V fuse', 'T'],
    ['S2', ['S2 open', 'S2 9 ohm'], 'toggle 2P', ''],
    ['LS2', ['LS2 8 ohm 5W open lifted'], '8 Ω 6 W loudspeaker', ''],
  ] as const) {
    for (const text of said) await bench.say(text)
    await expect(bench.strip(name)).toContainText('Replace')
    if (name === 'F2') {
      // What blew it is answered before another goes in.
      await page.keyboard.press('4')
      await expect(bench.station.locator('.choice.on')).toContainText('tin of keys')
      await expect(bench.station.locator('.refused')).toContainText('let more through')
      await page.keyboard.press('Enter')
      const cause = bench.station.getByRole('group', { name: 'Why did it fail?' })
      await expect(cause.getByRole('textbox')).toBeFocused()
      await page.keyboard.type('the first can was shorted')
      await page.keyboard.press('Enter')
      await expect(bench.station.getByRole('button', { name: /Taken and fitted/ })).toHaveClass(/primary/)
      await page.keyboard.press('Escape')
    }
    await page.keyboard.press('4')
    const on = bench.station.locator('.choice.on')
    await expect(on).toContainText(fits)
    await expect(on).toContainText('tin of keys')
    if (taken) await expect(on).toContainText(`speed ${taken}`)
    await page.keyboard.press('Enter')
    await expect(bench.strip(name)).toContainText('Prove it')
    await bench.say(`${name} proven plays`)
    await expect(bench.strip(name)).toContainText('Proven')
  }
})
