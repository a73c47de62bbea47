import { vi } from 'vitest'
import { createApp, defineComponent, h, type App } from 'vue'

/** What a request asked. */
export interface Asked {
  method: string
  path: string
  query: URLSearchParams
  body: unknown
}
export type Answer = { status?: number; body?: unknown } | 'nobody'

/** A server of the tests: it answers by rule, and remembers what was asked. */
export function serve(answer: (asked: Asked) => Answer | Promise<Answer>) {
  const all: Asked[] = []
  vi.stubGlobal('fetch', async (request: Request) => {
    const text = request.method === 'GET' ? '' : await request.text()
    const url = new URL(request.url, 'http://here')
    const asked = {
      method: request.method,
      path: url.pathname,
      query: url.searchParams,
      body:
        text && request.headers.get('content-type') === 'application/json' ? JSON.parse(text) : text || null,
    }
    all.push(asked)
    const got = await answer(asked)
    if (got === 'nobody') throw new TypeError('nobody answers')
    return new Response(JSON.stringify(got.body ?? {}), {
      status: got.status ?? 200,
      headers: { 'content-type': 'application/json' },
    })
  })
  return all
}

export const problem = (status: number, detail: string, more: object = {}): Answer => ({
  status,
  body: { title: 'x', status, detail, ...more },
})

/** Runs a composable inside of an application, as a view would. */
export function inView<T>(use: () => T): { value: T; app: App } {
  let value!: T
  const app = createApp(
    defineComponent({
      setup() {
        value = use()
        return () => h('div')
      },
    }),
  )
  app.mount(document.createElement('div'))
  return { value, app }
}

/** Until something is so; however long a loaded machine takes. */
export const until = (so: () => boolean) =>
  vi.waitFor(() => {
    if (!so()) throw new Error('not yet')
  }, 20_000)
