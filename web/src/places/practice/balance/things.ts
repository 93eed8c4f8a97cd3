import type { Pan } from '@/api'

/** What can be put on the pan. */
export const THINGS: Record<Pan, string> = {
  'full-boat': 'boat with the solid',
  'empty-boat': 'empty boat',
  'hot-crucible': 'hot crucible',
}
