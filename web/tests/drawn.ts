import { createApp, h, type App, type Component } from 'vue'

const mounted: App[] = []
/** Takes everything off the page that was drawn on it. */
export function wipe() {
  for (const app of mounted.splice(0)) app.unmount()
  document.body.innerHTML = ''
}

/** What a component draws, and what it sent while it was used. */
export function drawn(component: Component, props: object, slots: object = {}) {
  const place = document.createElement('div')
  document.body.append(place)
  const app = createApp({ render: () => h(component, props, slots as never) })
  app.mount(place)
  mounted.push(app)
  const all = (selector: string) => [...place.querySelectorAll(selector)]
  const one = (selector: string) => {
    const found = place.querySelector(selector)
    if (!found) throw new Error(`nothing is ${selector} in ${place.innerHTML}`)
    return found
  }
  const number = (selector: string, name: string) => Number(one(selector).getAttribute(name))
  return { place, all, one, number, text: (selector: string) => one(selector).textContent?.trim(), app }
}

/** The same numbers in every run. */
export function dice(seed: number) {
  let state = seed
  return (below: number) => {
    state = (state * 1103515245 + 12345) % 2147483648
    return Math.floor((state / 2147483648) * below)
  }
}
