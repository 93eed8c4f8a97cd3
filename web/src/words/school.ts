import type { School } from '@/api'

/** One choice of a school: what it is called, and what it looks like on paper. */
export interface SchoolChoice<V> {
  value: V
  name: string
  looks: string
}

/** The questions on which schools differ and that have fixed answers, in the order in which work meets them. */
export type SchoolQuestion = Exclude<keyof School, 'atomic_masses' | 'agreement'>

type Choices = {
  [Q in SchoolQuestion]: { asks: string; choices: readonly SchoolChoice<NonNullable<School[Q]>>[] }
}

export const schoolChoices: Choices = {
  burettes: {
    asks: 'A burette is read',
    choices: [
      { value: 'tenth', name: 'to a tenth of a division', looks: '24.33' },
      { value: 'half', name: 'to half a division', looks: '24.35' },
    ],
  },
  dry: {
    asks: 'A solid is dry',
    choices: [
      { value: 'constant-mass', name: 'when two weighings agree', looks: '33.081, 33.079' },
      { value: 'fixed-time', name: 'after its time in the oven', looks: '33.081' },
    ],
  },
  fives: {
    asks: 'A five at the end is rounded',
    choices: [
      { value: 'half-up', name: 'up', looks: '24.125 → 24.13' },
      { value: 'half-even', name: 'to the even digit', looks: '24.125 → 24.12' },
    ],
  },
  digits: {
    asks: 'A result is written',
    choices: [
      { value: 'figures', name: 'to the figures of the least precise reading', looks: '0.1024' },
      { value: 'uncertainty', name: 'to the first digit of its uncertainty', looks: '0.102 ± 0.004' },
    ],
  },
  whole_numbers: {
    asks: 'The zeros of 100',
    choices: [
      { value: 'ambiguous', name: 'could mean either: digits are not marked', looks: '1 to 3 figures' },
      { value: 'place-holders', name: 'are placeholders', looks: '1 figure' },
      { value: 'counted', name: 'count', looks: '3 figures' },
    ],
  },
  uncertainty: {
    asks: 'With a result, students see',
    choices: [
      { value: 'none', name: 'the value alone', looks: '62.0 %' },
      { value: 'apparatus', name: 'the apparatus error', looks: 'apparatus error 1.8 %' },
      { value: 'expanded', name: 'the uncertainty U (k = 2)', looks: '62.0 ± 0.8 %' },
    ],
  },
  tolerances: {
    asks: 'A tolerance of ± 0.03 mL means',
    choices: [
      { value: 'rectangular', name: 'anywhere within it', looks: 'u = 0.017 mL' },
      { value: 'triangular', name: 'mostly near the middle', looks: 'u = 0.012 mL' },
    ],
  },
}

export const schoolQuestions = Object.keys(schoolChoices) as SchoolQuestion[]

/** The kinds of rule for titres, each with the limit that it starts with. */
export const agreementRules = [
  { kind: 'instruments', name: 'as closely as the instruments allow', limit: null },
  { kind: 'within', name: 'within a limit', limit: '0.10 mL' },
  { kind: 'rsd', name: 'by relative standard deviation', limit: '0.5 %' },
  { kind: 'outlier-test', name: 'all of them, after an outlier test', limit: null },
] as const

export type AgreementKind = (typeof agreementRules)[number]['kind']

type Agreement = NonNullable<School['agreement']>

export function agreementKind(of: Agreement): AgreementKind {
  if (typeof of === 'string') return of
  return 'within' in of ? 'within' : 'rsd'
}

export function agreementLimit(of: Agreement): string | null {
  if (typeof of === 'string') return null
  return 'within' in of ? of.within : of.rsd
}

function agreementWords(of: Agreement): string {
  const limit = agreementLimit(of)
  switch (agreementKind(of)) {
    case 'instruments':
      return 'titres agree as closely as the instruments allow'
    case 'within':
      return `titres agree within ${limit ?? ''}`
    case 'rsd':
      return `titres agree by their rsd, ${limit ?? ''}`
    case 'outlier-test':
      return 'all titres count, bar an outlier'
  }
}

/** Which table of relative atomic masses, in words. */
export function massesWords(of: School['atomic_masses']): string {
  if (of === 'school') return 'atomic masses to one decimal'
  return of === 'abridged' ? 'standard atomic masses' : 'our own atomic masses'
}

/** All choices of a school, each in a few words: what a sum was worked by. */
export function schoolWords(school: School): string[] {
  const chosen = schoolQuestions.flatMap((q) => {
    const { asks, choices } = schoolChoices[q]
    const choice = choices.find((c) => c.value === school[q])
    return choice ? [`${asks.charAt(0).toLowerCase()}${asks.slice(1)}: ${choice.name}`] : []
  })
  return [massesWords(school.atomic_masses), agreementWords(school.agreement), ...chosen]
}
