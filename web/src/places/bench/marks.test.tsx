import { renderToStaticMarkup } from 'react-dom/server'
import { MemoryRouter } from 'react-router'
import { describe, expect, it } from 'vitest'
import type { BenchStep, DeliveredTitre, ReadingSpec } from '@/api'
import type { BenchNow, Filled } from './standing'
import { Repeats } from './reading/Repeats'
import { SeriesPlot } from './reading/SeriesPlot'
import { StepClock } from './step/StepClock'
import { TitreScale } from './reading/TitreScale'

const titre = (trial: number, text: string, agrees = false): DeliveredTitre => ({
  trial,
  text,
  agrees,
  rough: trial === 1,
})

const standing = (text: string): Filled => ({
  id: text,
  text,
  unit: 'mL',
  at: 0,
  about: false,
  struck: [],
  steps: [],
  flags: [],
  confirmed: false,
  by_instructor: false,
  held: false,
})

const spec = (reading: string, n: number, more: Partial<ReadingSpec> = {}): ReadingSpec => ({
  symbol: `${reading}[${n}]`,
  reading,
  label: `${reading}, point ${n}`,
  short: `${reading} ${n}`,
  unit: 'mL',
  instrument: 'Burette',
  instrument_kind: 'burette',
  resolution: 0.05,
  halves: false,
  weighed_out: true,
  decimals: 2,
  range: [0, 50],
  open_ended: false,
  delivers: false,
  axis: 'point',
  ...more,
})

const bench = (readings: Record<string, string>): BenchNow => ({
  readings: Object.fromEntries(Object.entries(readings).map(([k, v]) => [k, standing(v)])),
  observations: {},
  answers: {},
  tags: {},
  bottles: {},
  done: new Set(),
  clocks: [],
  deviations: [],
  help: null,
  heard: new Set<string>(),
})

/** The numbers above the menisci, from left to right. */
const labels = (markup: string) => [...markup.matchAll(/fill-ink[^>]*>([^<]*)</g)].map((m) => m[1])

describe('titres on one scale', () => {
  it('close the jaws around those that agree, at true width', () => {
    const markup = renderToStaticMarkup(
      <TitreScale
        titres={[titre(1, '21.60'), titre(2, '21.10', true), titre(3, '21.20', true)]}
        limit={{ value: 0.1, unit: 'mL', text: '0.10 mL' }}
      />,
    )
    const jaws = /d="M([\d.]+) 56V24H([\d.]+)V56"[^>]*class="stroke-teal"/.exec(markup)
    const menisci = [...markup.matchAll(/d="M([\d.-]+) 46q8 9 16 0"[^>]*class="stroke-teal"/g)].map(
      (m) => Number(m[1]) + 8,
    )
    expect([Number(jaws?.[1]), Number(jaws?.[2])].map((x) => x.toFixed(3))).toEqual(
      menisci.map((x) => x.toFixed(3)),
    )
    expect(markup).not.toContain('stroke-dasharray')
  })

  it('stand open while none agree, and share a label where they stand on one place', () => {
    const markup = renderToStaticMarkup(
      <TitreScale
        titres={[titre(1, '21.50'), titre(2, '21.10'), titre(3, '21.50')]}
        limit={{ value: 0.1, unit: 'mL', text: '0.10 mL' }}
      />,
    )
    expect(markup).toContain('stroke-dasharray')
    expect(labels(markup)).toEqual(['2', '1, 3'])
  })
})

describe('a series', () => {
  const readings = [1, 2, 3].flatMap((n) => [
    spec('V', n),
    spec('pH', n, { unit: '1', against: 'V', instrument_kind: 'ph-meter' }),
  ])
  const of = spec('pH', 1, { unit: '1', against: 'V' })

  it('plots whole pairs only, joined in the order of the axis, whatever order they came in', () => {
    const now = bench({ 'V[1]': '5.00', 'pH[1]': '4.80', 'V[2]': '1,00', 'pH[2]': '3.90', 'V[3]': '9.00' })
    const markup = renderToStaticMarkup(<SeriesPlot readings={readings} of={of} now={now} />)
    expect(markup).toContain('2 points')
    expect([...markup.matchAll(/<circle/g)]).toHaveLength(2)
    const line = /d="M([\d.]+) [\d.]+L([\d.]+) [\d.]+"/.exec(markup)
    expect(Number(line?.[1])).toBeLessThan(Number(line?.[2]))
  })

  it('is not drawn from one point', () => {
    const now = bench({ 'V[1]': '5.00', 'pH[1]': '4.80' })
    expect(renderToStaticMarkup(<SeriesPlot readings={readings} of={of} now={now} />)).toBe('')
  })

  it('shows the rows that are filled and one more, not all of them', () => {
    const many = Array.from({ length: 40 }, (_, i) => spec('V', i + 1))
    const shown = renderToStaticMarkup(
      <Repeats
        readings={many}
        now={bench({ 'V[1]': '1.00', 'V[2]': '2.00' })}
        findings={{}}
        delivered={{}}
        writing={null}
        closed={false}
        onChoose={() => undefined}
      />,
    )
    expect([...shown.matchAll(/<th scope="row"/g)]).toHaveLength(3)
    expect(shown).not.toContain('titre')
  })
})

describe('the clock of a step', () => {
  const step = { clock: { from: 'it boils', seconds: 1800 } } as BenchStep
  const shown = (clock: Parameters<typeof StepClock>[0]['clock'], now: number) =>
    renderToStaticMarkup(
      <MemoryRouter>
        <StepClock of={step} clock={clock} now={now} closed={false} onClock={() => undefined} />
      </MemoryRouter>,
    )
      .replace(/<[^>]*>/g, ' ')
      .replace(/\s+/g, ' ')

  it('waits for its condition, runs down, and asks to be heard', () => {
    expect(shown(undefined, 0)).toContain('It boils: start 30:00')
    expect(shown({ step: 0, since: 0, seconds: 1800 }, 60_000)).toContain('29:00')
    const over = shown({ step: 0, since: 0, seconds: 1800 }, 1_810_000)
    expect(over).toContain('+0:10')
    expect(over).toContain('Stop the alarm')
    expect(shown({ step: 0, since: 0, seconds: 1800, stopped: 1_810_000 }, 9e9)).toContain('ran for 30:10')
  })
})
