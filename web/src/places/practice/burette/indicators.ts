import type { FlaskShows, Indicator } from '@/api'

interface Looks {
  name: string
  /** Its two forms, as they look in a flask. */
  acid: string
  base: string
  /** What is seen going from acid to base, and back. */
  rising: Record<FlaskShows, string>
  falling: Record<FlaskShows, string>
}

/** How an indicator looks: its tones are those of the dye, the same in light and dark; what has none shows the liquid. */
export const INDICATORS: Record<Indicator, Looks> = {
  phenolphthalein: {
    name: 'phenolphthalein',
    acid: 'var(--teal-wash)',
    base: '#d6418f',
    rising: { before: 'colourless', first: 'pink that lasts', past: 'deep pink' },
    falling: { before: 'deep pink', first: 'pale pink', past: 'colourless' },
  },
  'methyl-orange': {
    name: 'methyl orange',
    acid: '#cc3a2b',
    base: '#e6bf3c',
    rising: { before: 'red', first: 'orange that lasts', past: 'yellow' },
    falling: { before: 'yellow', first: 'orange that lasts', past: 'red' },
  },
  'methyl-red': {
    name: 'methyl red',
    acid: '#c2334a',
    base: '#e3c64a',
    rising: { before: 'red', first: 'orange that lasts', past: 'yellow' },
    falling: { before: 'yellow', first: 'orange that lasts', past: 'red' },
  },
  'bromothymol-blue': {
    name: 'bromothymol blue',
    acid: '#dcc34a',
    base: '#2f66ad',
    rising: { before: 'yellow', first: 'green that lasts', past: 'blue' },
    falling: { before: 'blue', first: 'green that lasts', past: 'yellow' },
  },
}

/** What the flask looks like once so much of the indicator has turned. */
export function toneOf(indicator: Indicator, beginsAcid: boolean, turned: number): string {
  const { acid, base } = INDICATORS[indicator]
  const [from, to] = beginsAcid ? [acid, base] : [base, acid]
  return `color-mix(in oklab, ${to} ${(100 * turned).toFixed(1)}%, ${from})`
}

export const flaskWords = (indicator: Indicator, beginsAcid: boolean, shows: FlaskShows) =>
  INDICATORS[indicator][beginsAcid ? 'rising' : 'falling'][shows]
