import { spawn, type ChildProcess } from 'node:child_process'
import { createInterface } from 'node:readline'
import { type Page } from '@playwright/test'
import { expect, test } from './bench'

/** A workshop of several people has a server and a database of its own. */
let server: ChildProcess
let url = ''
let welcome = ''
test.beforeAll(async () => {
  server = spawn(process.env.OWL_PROGRAM!, ['serve', '--accounts', '--listen', '127.0.0.1:0'], {
    env: { ...process.env, OWL_DATABASE_URL: process.env.OWL_PEOPLE_DATABASE },
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  for await (const line of createInterface({ input: server.stdout! })) {
    url ||= /http:\/\/[\d.:]+/.exec(line)?.[0] ?? ''
    welcome = /http:\S+\/welcome#\w+/.exec(line)?.[0] ?? ''
    if (welcome) break
  }
})
test.afterAll(() => void server.kill())

/** Fills in what asks who comes, by keyboard alone. */
async function enter(page: Page, fields: string[]) {
  await expect(page.getByLabel('password')).toBeVisible()
  for (const text of fields) {
    await page.keyboard.type(text)
    await page.keyboard.press('Tab')
    // The eye beside a password is a stop of its own where something stands in it.
    if (await page.evaluate(() => document.activeElement?.matches('.el-input__password'))) await page.keyboard.press('Tab')
  }
  await page.getByRole('button', { name: /Sign in|Begin/ }).press('Enter')
}

test('the owner opens the workshop, an apprentice measures and is countersigned, and a session that ends loses nothing', async ({
  browser,
}) => {
  const owner = await (await browser.newContext()).newPage()
  owner.setDefaultTimeout(20_000)
  // Nobody gets in before there is an owner; the page says where the link is.
  await owner.goto(url)
  await expect(owner.getByText('This workshop has no owner yet')).toBeVisible()
  await owner.goto(welcome)
  await expect(owner.getByText('Whoever fills this in is its owner')).toBeVisible()
  await enter(owner, ['Sunniva Ek', 'short', 'bench 1'])
  await expect(owner.getByRole('alert')).toContainText('10 characters or more')
  await expect(owner.getByLabel('name', { exact: true })).toHaveValue('Sunniva Ek')
  await owner.getByLabel('choose a password').fill('tern kettle slate')
  await owner.keyboard.press('Enter')
  await expect(owner.getByText('No ticket yet')).toBeVisible()
  expect(owner.url()).not.toContain('welcome')

  // Somebody new gets a link that is seen once.
  await owner.keyboard.press('w')
  await owner.getByRole('button', { name: 'People' }).click()
  await expect(owner.getByText('everything, and the people')).toBeVisible()
  await owner.getByLabel('name', { exact: true }).fill('Jon Vik')
  await owner.locator('form .el-select').click()
  await owner.getByRole('option', { name: 'apprentice' }).click()
  await owner.getByRole('button', { name: 'Add somebody' }).click()
  const link = await owner.getByRole('status').locator('code').innerText()
  await expect(owner.getByText('no password chosen yet')).toBeVisible()

  const jon = await (await browser.newContext()).newPage()
  jon.setDefaultTimeout(20_000)
  await jon.goto(link)
  await expect(jon.getByText('Choose the password that you will sign in with')).toBeVisible()
  await enter(jon, ['three words of jon', 'bench 2'])
  await jon.keyboard.press('/')
  await jon.locator('#owl-line').fill('new ticket Skerry table set, mains transformer, valves, hums')
  await jon.keyboard.press('Enter')
  await expect(jon.locator('.tag.on')).toContainText('Skerry table set', { ignoreCase: true })
  for (const text of ['R7 2k2 10% cathode', 'R7 = 3.1k lifted']) {
    await jon.locator('#owl-line').fill(text)
    await jon.keyboard.press('Enter')
    await expect(jon.locator('#owl-understood')).toContainText('Taken')
  }
  await jon.keyboard.press('Escape')

  // Deciding asks for somebody beside him; a wrong password stays in the sheet, the decision waits.
  await jon.keyboard.press('3')
  await jon.keyboard.press('Enter')
  const sheet = jon.getByRole('dialog', { name: 'Countersign' })
  await expect(sheet).toBeVisible()
  await jon.keyboard.type('Sunniva Ek')
  await jon.keyboard.press('Tab')
  await jon.keyboard.type('not her words')
  await jon.keyboard.press('Enter')
  await expect(sheet.getByRole('alert')).toContainText('do not belong together')
  await sheet.getByLabel('password').fill('tern kettle slate')
  await jon.keyboard.press('Enter')
  await expect(sheet).toBeHidden()
  await expect(jon.getByText('R7: decided replace')).toBeVisible()

  // Whose everything is stands in the part's story.
  await jon.keyboard.press('1')
  await jon.getByText('Story').click()
  const story = jon.getByRole('list').filter({ hasText: 'decided replace' })
  await expect(story).toContainText('Jon Vik, bench 2, countersigned by Sunniva Ek')
  await expect(story).toContainText('measured resistance 3.1 kΩ, lifted')

  // The owner ends his session while he types: what was typed stays, and he goes on.
  await jon.locator('#owl-line').fill('C3 .047 400V coupl')
  await owner.reload()
  await expect(owner.locator('.tag')).toContainText('Skerry')
  await owner.keyboard.press('w')
  await owner.getByRole('button', { name: 'End: bench 2' }).click()
  await jon.locator('#owl-line').press('Enter')
  const again = jon.getByRole('dialog', { name: 'Sign in again' })
  await expect(again).toBeVisible()
  await again.getByLabel('password').fill('three words of jon')
  await jon.keyboard.press('Enter')
  await expect(again).toBeHidden()
  await expect(jon.locator('#owl-line')).toHaveValue('C3 .047 400V coupl')
  await jon.locator('#owl-line').fill('C3 .047 400V coupling')
  await jon.keyboard.press('Enter')
  await expect(jon.locator('.strip', { hasText: 'C3' })).toBeVisible()

  // One's own account: tokens, and going.
  await jon.getByRole('button', { name: 'Your account: Jon Vik' }).click()
  await jon.getByLabel('what it is for').fill('logger')
  await jon.getByRole('button', { name: 'Make a token' }).click()
  await expect(jon.getByRole('status').filter({ hasText: 'owl_' })).toBeVisible()
  await jon.getByRole('button', { name: 'Sign out' }).click()
  await expect(jon.getByRole('button', { name: 'Sign in' })).toBeVisible()
})

test('a ticket is deleted for good: its record is offered first, and it is asked once more', async ({ bench, page }) => {
  await bench.ticket('Deleted by mistake', ['R3 470k 10% cathode'])
  await page.keyboard.press('e')
  const sheet = page.getByRole('dialog')
  await sheet.getByRole('button', { name: 'Delete this ticket' }).click()
  await expect(sheet.getByRole('alert')).toContainText('Delete Deleted by mistake for good')
  const kept = page.waitForEvent('download')
  await sheet.getByRole('link', { name: 'Keep its record first' }).click()
  const record = await (await kept).path()
  await sheet.getByRole('button', { name: 'Delete this ticket' }).click()
  await expect(sheet).toBeHidden()
  await expect(page.locator('.tag', { hasText: 'Deleted by mistake' })).toHaveCount(0)
  // What was kept brings it back.
  await page.keyboard.press('w')
  await page.getByRole('button', { name: 'Past work' }).click()
  await page.locator('input[type=file]').setInputFiles(record)
  await expect(page.getByRole('status').filter({ hasText: 'Deleted by mistake' })).toBeVisible()
})
