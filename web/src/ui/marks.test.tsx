import { renderToStaticMarkup } from 'react-dom/server'
import { describe, expect, it, vi } from 'vitest'
import type { components } from '@/api/generated/schema'
import { Caliper, columnWidths, DotStrip, Formula, Reading, StateMark, WorkedLines, type StateKind } from '.'

type Line = components['schemas']['Line']

/** What a reader sees of some markup: its text. */
const text = (markup: string) => markup.replace(/<[^>]*>/g, '')

/** Where paths of this class begin along the line, in order of drawing. */
const starts = (markup: string, tone: string) =>
  [...markup.matchAll(/<path d="M([\d.]+) [^"]*" [^>]*class="([^"]*)"/g)]
    .filter((m) => m[2]?.includes(tone))
    .map((m) => Number(m[1]))

describe('readings in a column', () => {
  it('stand with their points beneath each other, whatever they are', () => {
    const column = ['3.04', '30.2', '25', '109', '-0.571']
    const widths = columnWidths(column)
    const shown = column.map((t) => text(renderToStaticMarkup(<Reading text={t} {...widths} />)))
    const lengths = new Set(shown.map((s) => s.length))
    expect(lengths.size).toBe(1)
    const points = new Set(shown.filter((s) => s.includes('.')).map((s) => s.indexOf('.')))
    expect(points.size).toBe(1)
    // A whole number ends where the points stand.
    expect(shown[2]?.trimEnd().length).toBe([...points][0])
  })
})

describe('states', () => {
  it('differ in shape and word, so that no colour is needed', () => {
    const kinds: StateKind[] = ['settled', 'doubtful', 'wrong', 'waiting']
    const marks = kinds.map((kind) => renderToStaticMarkup(<StateMark kind={kind} />))
    const shapes = marks.map((m) => / d="([^"]+)"/.exec(m)?.[1])
    const words = marks.map((m) => / aria-label="([^"]+)"/.exec(m)?.[1])
    expect(new Set(shapes).size).toBe(kinds.length)
    expect(words).toEqual(kinds)
  })
})

describe('the caliper', () => {
  const drawn = (from: number, to: number, mark: number) =>
    renderToStaticMarkup(
      <Caliper
        from={from}
        to={to}
        mark={mark}
        tolerance={0.02}
        unit="g"
        right={from <= mark && mark <= to}
      />,
    )
  const jaws = (markup: string) =>
    /<path d="M([\d.]+) [\d.]+V20H([\d.]+)V/.exec(markup)?.slice(1).map(Number) ?? []

  it('holds the recomputed value between its jaws, or stands aside', () => {
    const holding = drawn(6.155, 6.165, 6.16)
    const [left = 0, right = 0] = jaws(holding)
    const [mark = 0] = starts(holding, 'stroke-teal')
    expect(left).toBeLessThan(mark)
    expect(mark).toBeLessThan(right)
    const aside = drawn(3.005, 3.015, 6.16)
    expect(Math.max(...jaws(aside))).toBeLessThan(starts(aside, 'stroke-teal')[0] ?? 0)
  })

  it('is at true width: a tenfold wider answer has jaws tenfold apart, on the same scale', () => {
    const opening = (half: number) => {
      const markup = renderToStaticMarkup(
        <Caliper from={6 - half} to={6 + half} mark={6} tolerance={1} unit="g" right />,
      )
      const [left = 0, right = 0] = jaws(markup)
      return right - left
    }
    expect(opening(0.5) / opening(0.05)).toBeCloseTo(10, 6)
  })
})

describe('the class on a line', () => {
  it('points at what lies beyond the line instead of squeezing it in', () => {
    const dot = (value: number) => ({ value, tone: 'plain' as const, label: value.toFixed(2) })
    const markup = renderToStaticMarkup(
      <DotStrip dots={[dot(3.02), dot(9.21)]} low={2} high={4} band={[2.9, 3.1]} unit="g" width={112} />,
    )
    expect(markup.match(/<circle/g)?.length).toBe(1)
    expect(starts(markup, 'stroke-magenta')).toEqual([106])
    expect(markup).toContain('aria-label="2 values: 3.02, 9.21"')
    expect(renderToStaticMarkup(<DotStrip dots={[]} low={2} high={4} unit="g" />)).toContain('no values yet')
  })
})

describe('formulas and worked solutions', () => {
  it('set counts low, charges high and coefficients apart, and read as typed', () => {
    const markup = renderToStaticMarkup(
      <Formula
        runs={[
          { text: '2', script: 'coefficient' },
          { text: ' SO', script: 'plain' },
          { text: '4', script: 'sub' },
          { text: '2−', script: 'super' },
        ]}
      />,
    )
    expect(markup).toMatch(/<sub[^>]*>4<\/sub><sup[^>]*>2−<\/sup>/)
    expect(text(markup)).toBe('2 SO42−')
  })

  const line: Line = {
    name: 'm_theory',
    symbols: [
      { kind: 'symbol', text: 'V_acid' },
      { kind: 'sign', text: '×' },
      { kind: 'word', text: 'concentration' },
    ],
    numbers: [
      { kind: 'number', text: '25.00', reading: 'V_acid' },
      { kind: 'unit', text: 'mL' },
    ],
    result: '-6.16',
    unit: 'g',
  }

  it('lead from a number back to its reading where that is wanted, and only there', () => {
    const lead = renderToStaticMarkup(<WorkedLines lines={[line]} onReading={vi.fn()} />)
    expect(lead).toMatch(/<button[^>]*>25.00<\/button>/)
    expect(renderToStaticMarkup(<WorkedLines lines={[line]} />)).not.toContain('<button')
    expect(text(lead)).toContain('\u22126.16')
  })

  it('say not yet where there is no result, and show markup in a name as the letters it is', () => {
    const waiting = { ...line, name: 'x<script>alert(1)</script>', result: null, numbers: [] }
    const markup = renderToStaticMarkup(<WorkedLines lines={[waiting]} />)
    expect(text(markup)).toContain('not yet')
    expect(markup).not.toContain('<script>')
    expect(markup).toContain('&lt;script&gt;')
  })
})
