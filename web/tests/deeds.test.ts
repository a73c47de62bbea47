import { expect, test, vi } from 'vitest'
import { ref } from 'vue'
import { useDeeds } from '@/views/bench/useDeeds'
import { inView, serve, until, type Answer } from './server'

const deed = (id: number) => ({ id, part_id: `p${id}`, what: `R${id}: read 41k` })

/** Deeds three to one lie on the bench; the server answers an undo when it is let. */
function deeds() {
  let left = 3
  const held: (() => void)[] = []
  const asked = serve(async (a): Promise<Answer> => {
    if (a.method === 'POST') {
      await new Promise<void>((go) => held.push(go))
      left -= 1
    }
    return { body: { last: left ? deed(left) : null } }
  })
  const ticket = ref<string | null>(null)
  const changed = vi.fn(() => Promise.resolve())
  const { value } = inView(() => useDeeds(ticket, changed))
  const undone = () => asked.filter((a) => a.method === 'POST').map((a) => (a.body as { deed: number }).deed)
  return { value, ticket, held, undone, changed }
}

test('an undo asked for while another is on its way takes back the one before, and not the same twice', async () => {
  const { value, ticket, held, undone, changed } = deeds()
  ticket.value = 't1'
  await until(() => value.deed.value?.id === 3)
  void value.undo()
  const second = value.undo()
  await until(() => held.length === 1)
  held[0]?.()
  await until(() => held.length === 2)
  held[1]?.()
  await second
  expect(undone()).toEqual([3, 2])
  expect(changed.mock.calls).toEqual([['p3'], ['p2']])
  expect(value.deed.value?.id).toBe(1)
})

test('an undo that waited takes nothing back on the ticket opened since', async () => {
  const { value, ticket, held, undone } = deeds()
  ticket.value = 't1'
  await until(() => value.deed.value?.id === 3)
  void value.undo()
  const second = value.undo()
  await until(() => held.length === 1)
  ticket.value = 't2'
  held[0]?.()
  await second
  expect(undone()).toEqual([3])
})
