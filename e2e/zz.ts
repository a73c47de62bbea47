import { test } from './bench'
test('look', async ({ page, request }) => {
  const shelf = (await (await request.get('/api/tickets')).json()) as { id: string; name: string }[]
  const t = shelf.find((x) => x.name.startsWith('Saltmere'))!
  page.setDefaultTimeout(8000)
  await page.goto('/' + t.id)
  await page.waitForTimeout(600)
  await page.getByRole('button', { name: 'Banks and strings' }).click(); await page.waitForTimeout(800)
  await page.screenshot({ path: '/tmp/z1.png' })
})
