import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { renderToStaticMarkup } from 'react-dom/server'
import { MemoryRouter } from 'react-router'
import { describe, expect, it } from 'vitest'
import type { BenchMark, Cause, CheckView, CohortResult, LeftOver, ResultSpec, Verdict } from '@/api'
import { causeWords } from './causes'
import { LeftOvers } from './LeftOvers'
import { Marks } from './Marks'
import { Paper } from './Paper'
import { Pooled } from './Pooled'
import { Reason } from './Reason'
import { Spread } from './Spread'
import { judgedOf, nextOpen, progress, releasedWords, stacksOf } from './stacks'

const shown = (view: ReactNode) =>
  renderToStaticMarkup(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>{view}</MemoryRouter>
    </QueryClientProvider>,
  )
/** What a reader reads, without the markup. */
const words = (html: string) =>
  html
    .replace(/<[^>]+>/g, ' ')
    .replace(/\s+/g, ' ')
    .trim()

/** The first of some, which is there. */
function first<T>(of: readonly (T | undefined)[]): T {
  if (of[0] === undefined) throw new Error('there is none')
  return of[0]
}

const spec = (name: string, most: number, answer: ResultSpec['answer'] = 'number'): ResultSpec => ({
  name,
  label: `the ${name}`,
  part_of_a_whole: false,
  reagents: [],
  unit: 'g',
  units: ['g', 'mg'],
  asked: true,
  answer,
  most,
  model: answer === 'words' ? 'some stays in the liquor' : '',
})

const stands = { right: 'right', 'carried-forward': 'carried-forward', wrong: 'wrong' } as const

const verdict = (value: Verdict['value']): Verdict => ({
  stands: value.kind in stands ? stands[value.kind as keyof typeof stands] : 'open',
  value,
  unit: { kind: 'right' },
  digits: { kind: 'right' },
  absurd: false,
  comparison: null,
  diagnosis: { named: [], near: [] },
})

const recording: BenchMark = {
  marks: 1.5,
  most: 2,
  found: { kind: 'recording', good: 3, of: 4 },
}

type Sheet = CheckView['sheets'][number]

function sheet(key: string, answers: Record<string, [text: string, value: Verdict['value']]>): Sheet {
  const entries = Object.entries(answers)
  return {
    key,
    group: Number(key),
    name: `group ${key}`,
    answers: Object.fromEntries(
      entries.map(([name, [text]]) => [name, { id: `${key} ${name}`, text, unit: 'g', at: 0, struck: [] }]),
    ),
    verdicts: Object.fromEntries(entries.map(([name, [, value]]) => [name, verdict(value)])),
    given: {},
    marks: {},
    reviews: {},
    stale: {},
    results: [],
    changed_since: false,
  } as unknown as Sheet
}

function view(sheets: Sheet[], more: Partial<CheckView> = {}): CheckView {
  const keys = ['1', '2', '3']
  return {
    run: { id: 7, title: 'A practical', class: '11-Basalt' },
    results: [spec('n', 1), spec('m', 3), spec('why', 2, 'words')],
    rows: keys.map((k) => ({ group: Number(k), name: `group ${k}` })),
    answerers: keys.map((k) => ({ key: k, group: Number(k), name: `group ${k}`, bench_marks: [recording] })),
    labels: {},
    sheets,
    ...more,
  } as unknown as CheckView
}

describe('marks', () => {
  it('count what was left out, what was done at the bench, and groups that have not answered', () => {
    const one = { ...sheet('1', { m: ['6.16', { kind: 'right' }] }), given: { n: 1, m: 3 } }
    const text = words(shown(<Marks view={view([one])} />))
    expect(text).toContain('1, left out on the way')
    // 1 + 3 + 1.5 of 1 + 3 + 2 + 2 marks; the others have their readings.
    expect(text).toContain('of 8')
    expect(text).toMatch(/group 1 .* 5\.5 group 2/)
    expect(text).toMatch(/group 3 no answer no answer no answer 1\.5 3 of 4 readings/)
  })

  it('that were set by hand are underlined in copper, and no others', () => {
    const review = {
      ruling: 'right',
      marks: null,
      comment: 'settled',
      by: 'R. Ashdown',
      at: 0,
      current: true,
    }
    const ruled = { ...sheet('1', { m: ['6.16', { kind: 'wrong' }] }), reviews: { m: review } }
    const asJudged = { ...ruled, reviews: { m: { ...review, ruling: 'as-judged' } } }
    const old = { ...ruled, reviews: { m: { ...review, current: false } } }
    const underlined = (one: unknown) =>
      shown(<Marks view={view([one as Sheet])} />).includes('border-copper')
    expect([underlined(ruled), underlined(asJudged), underlined(old)]).toEqual([true, false, false])
  })
})

describe('a reason in words', () => {
  const said = (key: string, text: string) => sheet(key, { why: [text, { kind: 'to-read' }] })

  it('stands with others that say the same, whatever their capitals and full stops', () => {
    const all = view([said('1', 'It was damp.'), said('2', 'it was  damp'), said('3', 'It was dry.')])
    const stacks = stacksOf(judgedOf(all, 'why'))
    expect(stacks.map((s) => [s.words, s.judged.length])).toEqual([
      ['It was damp.', 2],
      ['It was dry.', 1],
    ])
    const reason = spec('why', 2, 'words')
    const html = shown(
      <Reason
        view={all}
        spec={reason}
        judged={first(judgedOf(all, 'why'))}
        alike={first(stacks).judged}
        saying={null}
        error={null}
        onSaying={() => undefined}
        onTakeBack={() => undefined}
        onSay={() => undefined}
      />,
    )
    expect(words(html)).toContain('group 1 and 1 with the same words It was damp. It is right for all 2')
    expect(words(html)).toContain('A good answer says: some stays in the liquor')
  })

  it('is shown as it was typed, and runs nothing', () => {
    const all = view([said('1', '<img src=x onerror=alert(1)>')])
    const html = shown(
      <Reason
        view={all}
        spec={spec('why', 2, 'words')}
        judged={first(judgedOf(all, 'why'))}
        alike={[]}
        saying={null}
        error={null}
        onSaying={() => undefined}
        onTakeBack={() => undefined}
        onSay={() => undefined}
      />,
    )
    expect(html).toContain('&lt;img src=x')
    expect(html).not.toContain('<img')
  })
})

describe('the way through a review', () => {
  const answered = view([
    sheet('1', { n: ['25.0', { kind: 'right' }], m: ['3.01', { kind: 'wrong' }] }),
    sheet('2', { n: ['2.50', { kind: 'wrong' }], m: ['6.16', { kind: 'right' }] }),
  ])

  it('goes on with what is wrong in this result, then with the next, then from the beginning', () => {
    const next = (from: string, ...done: string[]) => nextOpen(answered, from, new Set(done))
    expect(next('m')).toEqual({ result: 'm', sheet: '1' })
    expect(next('m', '1 m')).toEqual({ result: 'm', sheet: '2' })
    expect(next('m', '1 m', '2 m')).toEqual({ result: 'n', sheet: '2' })
    expect(next('m', '1 m', '2 m', '2 n', '1 n')).toBeUndefined()
    expect(progress(answered)).toEqual({ reviewed: 0, of: 4 })
  })

  it('says what was given back, and what is told otherwise since', () => {
    expect(releasedWords(answered)).toBe('given back to groups: not yet')
    const [one, ...others] = answered.sheets
    const given = { ...first([one]), released_at: 1_794_481_440_000, changed_since: true }
    const back = { ...answered, sheets: [given, ...others] }
    expect(releasedWords(back)).toMatch(/^given back: 1 of 2, .* · 1 changed since$/)
  })
})

describe('answers from paper', () => {
  it('have a cell for everybody who could answer, with what stands already', () => {
    const html = shown(<Paper view={view([sheet('1', { m: ['6.16', { kind: 'right' }] })])} />)
    expect(html.match(/<input/g)).toHaveLength(9)
    expect(html).toContain('value="6.16 g"')
    expect(html).toContain('aria-label="the why, group 3"')
  })

  it('say what to do first where nobody sits at a bench', () => {
    expect(words(shown(<Paper view={view([], { answerers: [] })} />))).toContain('seat them on the board')
  })
})

describe('the class', () => {
  const cause = (more: Partial<Cause>): Cause => ({
    kind: 'bench',
    name: 'bench B',
    same_groups: [],
    groups: ['Beryl'],
    difference: 0.5,
    relative: 0.011,
    p: 0.001,
    p_corrected: 0.004,
    tried: 4,
    cancels: false,
    told: true,
    ...more,
  })
  const result = (causes: Cause[]): CohortResult => ({
    name: 'm',
    label: 'theoretical yield',
    recipe: 'recipe A',
    unit: 'g',
    dots: [0.733, 0.735, 2.1].map((value, i) => ({
      group: `G${i}`,
      value,
      expanded: 0.002,
      outlier: i === 2,
    })),
    robust: { mean: 0.734, sd: 0.002, mean_shown: '0.7340', sd_shown: '0.0020' },
    test: 'grubbs',
    causes,
  })

  it('tells a cause with its check, names what it cannot be told apart from, and chance in one line', () => {
    const told = cause({ same_groups: ['Balance 2'] })
    const text = words(
      shown(<Spread result={result([told, cause({ name: 'bottle A', kind: 'bottle', told: false })])} />),
    )
    expect(text).toContain('theoretical yield, recipe A')
    expect(text).toContain('bench B gives theoretical yield 1.1 % higher (p 0.0040, corrected for 4 tried)')
    expect(text).toContain('look at what bench B works with. It cannot be told apart from Balance 2')
    expect(text).toContain('no more than chance can do: bottle A')
    expect(text).toContain('G2 is an outlier by')
  })

  it('does not blame what cancels', () => {
    const cancels = cause({ kind: 'balance', name: 'Balance 1', told: false, cancels: true, difference: -1 })
    expect(causeWords(cancels, 'percent yield')).toBe(
      'Balance 1: 1.1 % lower, but an offset of it cancels in percent yield; it is not blamed.',
    )
  })

  it('draws what is far out at the edge with its number, and squeezes nobody for it', () => {
    const html = shown(<Spread result={result([])} />)
    expect(html).toContain('› 2.10')
    const places = [...html.matchAll(/<circle cx="([\d.]+)"/g)].map((m) => Number(m[1]))
    expect(places).toHaveLength(2)
    expect(Math.abs((places[1] ?? 0) - (places[0] ?? 0))).toBeGreaterThan(40)
  })

  it('draws the line through its points and names each group that stands alone', () => {
    const point = (group: string, x: number, y: number) => ({ group, x, y })
    const html = shown(
      <Pooled
        line={{
          label: 'mass against theory',
          x_unit: 'g',
          y_unit: 'g',
          points: [point('Opal', 0.7, 0.66), point('Onyx', 0.701, 0.661), point('Topaz', 1, 0.93)],
          slope: { value: 0.9, standard_error: 0.01 },
          intercept: { value: 0.03, standard_error: null },
        }}
      />,
    )
    expect(html.match(/<circle/g)).toHaveLength(3)
    const named = [...html.matchAll(/<text[^>]*class="fill-slate text-\[12px\]"[^>]*>([^<]+)</g)].map(
      (m) => m[1],
    )
    expect(named).toEqual(['Opal', 'Topaz'])
    expect(words(html)).toContain('slope 0.9000 ± 0.010 (standard error)')
  })

  it('tells what is left over by disposal group, and that the local rule comes first', () => {
    const left = (name: string, amount: number, group: string, mass: number | null): LeftOver => ({
      symbol: name,
      name,
      amount,
      group,
      mass,
    })
    const of = [
      left('silver nitrate', 1.234, 'silver', 0.2096),
      left('salt', 0, '', 0),
      left('acid', 5, '', null),
    ]
    const text = words(shown(<LeftOvers of={of} disposal="Silver to the jar." />))
    expect(text).toContain('silver nitrate 0.21 g silver')
    expect(text).toContain('acid 5.0 mmol no disposal group named')
    expect(text).not.toContain('salt')
    expect(text).toContain('Silver to the jar. Your local rule for waste comes first.')
    expect(shown(<LeftOvers of={[]} disposal="x" />)).toBe('')
  })
})
