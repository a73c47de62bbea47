import { useStorage } from '@vueuse/core'
import { words } from '../../words/en'

const NAMES = ['instruments', 'schools', 'past', 'rules', 'words', 'speech', 'people'] as const
export type WorkshopPage = (typeof NAMES)[number]

/** The pages of the workshop, with their names. */
export const WORKSHOP_PAGES = NAMES.map((name) => ({
  name,
  label: name === 'past' ? words.job.past.page : words.workshop[name],
}))

/** The one that is open, or opens next. */
export const useWorkshopPage = () => useStorage<WorkshopPage>('owl-workshop', 'instruments')
