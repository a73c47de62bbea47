import { reactive, ref } from 'vue'
import { api, told, type Amount, type Quantity } from '../api/client'

/** A field of a form that is typed as people write it and read by the server. */
export interface TypedSpec {
  name: string
  quantity: Quantity
}

/** The fields of a form as typed; the server reads them, and says what is wrong with one. */
export function useTyped() {
  const typed = reactive<Record<string, string>>({})
  const wrong = ref<Record<string, string>>({})

  /** The values of the fields that hold one; null where one of them cannot be read. */
  async function read(fields: TypedSpec[]): Promise<Record<string, Amount> | null> {
    const asked = Object.fromEntries(
      fields.map((f) => [f.name, { quantity: f.quantity, text: typed[f.name] ?? '' }]),
    )
    const got = await told(api.POST('/api/values', { body: { fields: asked } }))
    wrong.value = got.wrong
    return Object.keys(got.wrong).length ? null : got.values
  }

  return { typed, wrong, read }
}
