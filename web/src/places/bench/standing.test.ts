import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import type { BenchView, EntryBody } from '@/api'
import type { OnItsWay } from './outbox/outbox'
import { benchNow, isComplete, nextStep, type BenchNow } from './standing'

const view = {
  group_id: 2,
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
  spared: [],
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

it('starts and stops a clock, counts a departure and a call, before the server has heard of them', () => {
  const told = (entry: EntryBody, taken_at = 50) => {
    const one = onItsWay(entry)
    return { ...one, entry: { ...one.entry, taken_at } }
  }
  const lost = { kind: 'lost', material: 'acid', amount: '1 mL' } as const
  const said = [
    told({ kind: 'clock', step: 1, running: true, seconds: 600 }),
    told({ kind: 'deviation', nr: 'a', step: 0, what: lost }),
    told({ kind: 'help', wanted: true, about: 'step 1' }),
    told({ kind: 'confirmed', symbol: 'm_dish' }),
  ]
  const now = benchNow(view, said)
  expect(now.clocks).toEqual([{ step: 1, since: 50, seconds: 600 }])
  expect(now.deviations.map((d) => d.nr)).toEqual(['a'])
  expect(now.help).toBe('step 1')
  expect(now.readings['m_dish']?.confirmed).toBe(true)
  const after = benchNow(view, [
    ...said,
    told({ kind: 'clock', step: 1, running: false }, 90),
    told({ kind: 'deviation', nr: 'a', step: 0, what: lost, withdrawn: true }),
    told({ kind: 'help', wanted: false }),
    told({ kind: 'reading', symbol: 'm_dish', text: '47.92', unit: 'g' }),
  ])
  expect(after.clocks).toEqual([{ step: 1, since: 50, seconds: 600, stopped: 90 }])
  expect([after.deviations, after.help]).toEqual([[], null])
  expect(after.readings['m_dish']?.confirmed).toBe(false)
})

it('asks for every crop, and of a series for no more than there is', () => {
  const spec = (reading: string, n: number, axis: string) => ({
    symbol: `${reading}[${n}]`,
    reading,
    axis,
    open_ended: axis === 'point',
  })
  const both = {
    ...view,
    steps: [{ title: 'All', records: ['T[1]', 'T[2]', 'm[1]', 'm[2]'] }],
    readings: [spec('T', 1, 'point'), spec('T', 2, 'point'), spec('m', 1, 'crop'), spec('m', 2, 'crop')],
  } as unknown as BenchView
  const taken = (...symbols: string[]) =>
    benchNow(
      both,
      symbols.map((symbol) => onItsWay({ kind: 'reading', symbol, text: '1.00', unit: 'g' })),
    )
  expect(isComplete(both, taken('m[1]', 'm[2]'), 0)).toBe(false)
  expect(isComplete(both, taken('T[1]', 'm[1]'), 0)).toBe(false)
  expect(isComplete(both, taken('T[1]', 'm[1]', 'm[2]'), 0)).toBe(true)
  // The server knows when repeats agree.
  expect(isComplete({ ...both, spared: ['m[2]'] }, taken('T[1]', 'm[1]'), 0)).toBe(true)
})

it('does not show what was made at another bench, which this device only sends on', () => {
  const elsewhere = onItsWay({ kind: 'reading', symbol: 'm_full', text: '52.00', unit: 'g' })
  const entry = { ...elsewhere.entry, group: 9 }
  expect(benchNow(view, [{ ...elsewhere, entry }]).readings['m_full']).toBeUndefined()
})

it('comes to the same as the server when it holds a whole story', () => {
  const story = JSON.parse(readFileSync('../crates/lab/tests/lab/story.json', 'utf8')) as Story
  const empty = { ...view, entered: {}, steps_done: [], seq: 0, help: null }
  const held = story.said.map((said, i): OnItsWay => ({
    order: i,
    bench: '1/2',
    entry: {
      id: String(i),
      group: 2,
      entry: said.entry,
      taken_at: i,
      ...(said.reason !== undefined && { reason: said.reason }),
    },
  }))
  const now = benchNow(empty, held)
  const shown = (places: BenchNow['readings']) =>
    Object.fromEntries(
      Object.entries(places).map(([slot, s]) => [
        slot,
        { text: s.text, confirmed: s.confirmed, struck: s.struck.map((x) => [x.text, x.reason]) },
      ]),
    )
  expect({
    readings: shown(now.readings),
    answers: shown(now.answers),
    done: [...now.done],
    clocks: now.clocks.map((c) => [c.step, c.seconds]),
    deviations: now.deviations.map((d) => d.nr),
    help: now.help,
  }).toEqual(story.stands)
})

interface Story {
  said: { entry: EntryBody; reason?: string }[]
  stands: unknown
}
