import { renderToStaticMarkup } from 'react-dom/server'
import { MemoryRouter } from 'react-router'
import { describe, expect, it } from 'vitest'
import type { BenchView, EntryBody, ReadingSpec } from '@/api'
import { benchNow } from '../standing'
import type { Entering } from '../useBench'
import { nextOfSeries, useStep, type StepNow } from './useStep'

const reading = (symbol: string, more: Partial<ReadingSpec> = {}) => ({ symbol, reading: symbol, ...more })

const bench = {
  group_id: 2,
  closed: false,
  steps: [
    { title: 'Weigh', records: ['m_dish', 'm_full'], answers: ['n_salt', 'yield'] },
    { title: 'Titrate', records: ['V[1]', 'V[2]'] },
  ],
  readings: [
    reading('m_dish'),
    reading('m_full'),
    reading('V[1]', { reading: 'V', axis: 'trial' }),
    reading('V[2]', { reading: 'V', axis: 'trial' }),
  ],
  asked: [{ name: 'n_salt' }, { name: 'yield' }],
  feedback: { answers_of: 'group', given_back: {}, at_once: {} },
  entered: {},
  observed: {},
  answered: {},
  tags: {},
  bottles: {},
  clocks: [],
  deviations: [],
  spared: [],
  steps_done: [],
  seq: 1,
} as unknown as BenchView

const read = (symbol: string): EntryBody => ({ kind: 'reading', symbol, text: '1.00', unit: 'g' })
const answered = (result: string): EntryBody => ({ kind: 'answer', result, text: '1.00', unit: 'mol' })

/** The step as the page finds it, with so much entered on this device already. */
function stepNow(of: {
  view?: Partial<BenchView>
  entered?: EntryBody[]
  step?: number
  writer?: number | null
  take?: string
}): StepNow | undefined {
  const view = { ...bench, ...of.view }
  const onTheirWay = (of.entered ?? []).map((entry, i) => ({
    order: i,
    bench: '2',
    entry: { id: `${i}`, group: 2, entry, taken_at: i },
  }))
  let seen: StepNow | undefined
  const Probe = () => {
    const entering = { writer: of.writer ?? null } as Entering
    seen = useStep(view, benchNow(view, onTheirWay), entering, of.step ?? 0)
    return null
  }
  renderToStaticMarkup(
    <MemoryRouter initialEntries={[of.take === undefined ? '/' : `/?take=${encodeURIComponent(of.take)}`]}>
      <Probe />
    </MemoryRouter>,
  )
  return seen
}

const written = (at: StepNow | undefined) =>
  at?.writing.kind === 'reading'
    ? at.writing.spec.symbol
    : at?.writing.kind === 'answer'
      ? at.writing.slot
      : null

const ofStudents = { ...bench.feedback, answers_of: 'student' } as BenchView['feedback']
const givenBack = {
  ...bench.feedback,
  given_back: { n_salt: { expected: '25.0' } },
} as unknown as BenchView['feedback']
const allRead = [read('m_dish'), read('m_full')]

describe('what is being written at a step', () => {
  it.each<[string, Parameters<typeof stepNow>[0], string | null]>([
    ['the first reading that is open', {}, 'm_dish'],
    ['the next one, when it stands', { entered: [read('m_dish')] }, 'm_full'],
    ['not one that is spared', { view: { spared: ['m_dish'] } }, 'm_full'],
    ['sums after the readings', { entered: allRead }, 'n_salt'],
    ['the next sum', { entered: [...allRead, answered('n_salt')] }, 'yield'],
    [
      'nothing, when everything stands',
      { entered: [...allRead, answered('n_salt'), answered('yield')] },
      null,
    ],
    ['what was chosen, although it stands', { entered: [read('m_dish')], take: 'm_dish' }, 'm_dish'],
    ['nothing for a name of another step', { take: 'V[1]' }, null],
    ['after class no reading, but sums from home', { view: { closed: true } }, 'n_salt'],
    ['not even a reading that was chosen', { view: { closed: true }, take: 'm_dish' }, null],
    ['no sum whose value was given back', { entered: allRead, view: { feedback: givenBack } }, 'yield'],
    ['no sum while nobody writes', { entered: allRead, view: { feedback: ofStudents } }, null],
    [
      'the sum of whoever writes',
      { entered: allRead, view: { feedback: ofStudents }, writer: 12 },
      'n_salt by 12',
    ],
    ['readings belong to the group, whoever writes', { view: { feedback: ofStudents } }, 'm_dish'],
  ])('%s', (_, of, slot) => {
    expect(written(stepNow(of))).toBe(slot)
  })

  it('says that somebody has to write, only where there are sums', () => {
    expect(stepNow({ view: { feedback: ofStudents } })?.nobodyWrites).toBe(true)
    expect(stepNow({ view: { feedback: ofStudents }, step: 1 })?.nobodyWrites).toBe(false)
    expect(stepNow({ step: 7 })).toBeUndefined()
  })
})

it('goes on along a series, and not along repeats that end when they agree', () => {
  const point = (n: number, axis: string, open_ended: boolean) =>
    reading(`V[${n}]`, { reading: 'V', axis, open_ended }) as ReadingSpec
  const series = [1, 2, 3].map((n) => point(n, 'point', true))
  const trials = [1, 2].map((n) => point(n, 'trial', false))
  const now = benchNow(bench, [])
  const [first, second, last] = series as [ReadingSpec, ReadingSpec, ReadingSpec]
  expect(nextOfSeries(series, now, first)).toBe('V[2]')
  expect(nextOfSeries(series, now, last)).toBeUndefined()
  expect(nextOfSeries(trials, now, trials[0] as ReadingSpec)).toBeUndefined()
  const taken = { order: 1, bench: '2', entry: { id: 'x', group: 2, entry: read('V[3]'), taken_at: 1 } }
  expect(nextOfSeries(series, benchNow(bench, [taken]), second)).toBeUndefined()
})
