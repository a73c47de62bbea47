import { useStorage } from '@vueuse/core'
import { inject, provide, reactive, ref, type InjectionKey } from 'vue'
import type { EquivalentsQuestion, Part } from '../../api/client'

/** The stages as the trade knows them, from the smallest signal to the power. */
export const STAGES = [
  'small signal',
  'driver',
  'class A output',
  'push-pull output with transformer',
  'complementary output',
  'quasi-complementary output',
  'mixer or oscillator',
  'intermediate frequency',
  'radio frequency',
  'radio frequency driver',
  'radio frequency power',
  'AM final',
  'regulator',
  'switch',
] as const
export type Stage = (typeof STAGES)[number]
export const PAGES = ['identify', 'equivalents', 'pairs', 'incoming', 'types'] as const
export type Page = (typeof PAGES)[number]
const KEY: InjectionKey<Desk> = Symbol('transistor desk')
export type Desk = ReturnType<typeof provideDesk>

/** What the pages of the desk hand to each other. */
export function provideDesk(inHand: Part | null) {
  const semiconductor = ['transistor', 'diode', 'integrated circuit']
  const part = inHand && semiconductor.includes(inHand.kind) ? inHand : null
  const page = useStorage<Page>('owl-transistors', 'identify')
  /** What something is to be found for: a type, or what was identified. */
  const wanted = reactive<{ type: string; ratings: NonNullable<EquivalentsQuestion['wanted']> | null }>({
    type: '',
    ratings: null,
  })
  /** What is typed belongs to the part in hand: nothing of another part's desk ever stands here. */
  const of = (name: string) => `draft:${name}:${part?.id ?? 'desk'}`
  /** A type whose sheet is open. */
  const sheet = ref('')
  const desk = { page, wanted, sheet, part, of }
  provide(KEY, desk)
  return desk
}

export function useDesk(): Desk {
  const desk = inject(KEY)
  if (!desk) throw new Error('no transistor desk above this component')
  return desk
}
