import { expect, it } from 'vitest'
import type { BenchView, EntryBody } from '@/api'
import type { OnItsWay } from './outbox'
import { benchNow, isComplete, nextStep } from './standing'

const view = {
  steps: [
    { title: 'Weigh', records: ['m_dish'] },
    { title: 'Look', observes: ['fizz'] },
  ],
  entered: {
    m_dish: {
      id: 'a',
      text: '47.91',
      unit: 'g',
      at: 10,
      about: false,
      steps: [],
      flags: [],
      confirmed: false,
      struck: [],
    },
  },
  observed: {},
  answered: {},
  tags: {},
  bottles: {},
  clocks: [],
  deviations: [],
  advice: [],
  readings: [],
  steps_done: [0],
  seq: 7,
} as unknown as BenchView

function onItsWay(entry: EntryBody, more: Partial<OnItsWay> = {}): OnItsWay {
  return {
    order: 1,
    bench: '1/2',
    entry: { id: 'b', group: 2, entry, taken_at: 20, reason: 'misread' },
    ...more,
  }
}
const corrected = (more: Partial<OnItsWay> = {}) =>
  onItsWay({ kind: 'reading', symbol: 'm_dish', text: '49.71', unit: 'g' }, more)

it('puts what the device holds over what the server knows, and strikes the old value', () => {
  const { m_dish } = benchNow(view, [corrected()]).readings
  expect(m_dish).toMatchObject({ text: '49.71', held: true, struck: [{ text: '47.91', reason: 'misread' }] })
})

it('shows an arrived entry until the view has it, and a refused one not at all', () => {
  expect(benchNow(view, [corrected({ seq: 8 })]).readings['m_dish']).toMatchObject({
    text: '49.71',
    held: false,
  })
  expect(benchNow(view, [corrected({ seq: 7 })]).readings['m_dish']?.text).toBe('47.91')
  expect(benchNow(view, [corrected({ refused: 'no' })]).readings['m_dish']?.text).toBe('47.91')
})

it('knows what is complete and where to go on', () => {
  const before = benchNow(view, [])
  expect([isComplete(view, before, 0), isComplete(view, before, 1), nextStep(view, before)]).toEqual([
    true,
    false,
    1,
  ])
  const after = benchNow(view, [
    onItsWay({ kind: 'observation', symbol: 'fizz', choice: 'no fizz' }),
    onItsWay({ kind: 'step', step: 0, done: false }),
  ])
  expect([isComplete(view, after, 1), nextStep(view, after)]).toEqual([true, 0])
})
