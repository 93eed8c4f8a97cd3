import type { Instrument, PracticalFile } from '@/api'

/** The first of `name`, `name_2`, … that none of them has. */
export function free(name: string, taken: readonly string[]): string {
  for (let n = 1; ; n++) {
    const tried = n === 1 ? name : `${name}_${n}`
    if (!taken.includes(tried)) return tried
  }
}

/** Instruments that a reading in this unit can be taken on come from a usual room. */
export function firstInstrument(file: PracticalFile, kit: readonly Instrument[]): Instrument | undefined {
  return file.instruments?.[0] ?? kit[0]
}

/** A new item of each section: sound by itself, with places to fill in. */
export function blankOf(
  section: string,
  file: PracticalFile,
  kit: readonly Instrument[],
): Record<string, unknown> {
  switch (section) {
    case 'reactions':
      return { equation: '2 H2 + O2 -> 2 H2O' }
    case 'materials': {
      const symbol = free(
        'substance',
        (file.materials ?? []).map((m) => m.symbol),
      )
      return { symbol, name: 'new substance', role: 'excess', form: { kind: 'solid' } }
    }
    case 'instruments':
      return { ...(kit.find((k) => !file.instruments?.some((i) => i.name === k.name)) ?? kit[0]) }
    case 'vessels':
      return {
        name: free(
          'beaker',
          (file.vessels ?? []).map((v) => v.name),
        ),
        capacity: '100 mL',
      }
    case 'resources':
      return {
        name: free(
          'balance',
          (file.resources ?? []).map((r) => r.name),
        ),
        count: 2,
        groups: 1,
      }
    case 'readings': {
      const instrument = firstInstrument(file, kit)
      const symbol = free(
        'm_new',
        (file.readings ?? []).map((r) => r.symbol),
      )
      const decimals = Math.max(0, -Math.floor(Math.log10(instrument?.resolution ?? 1)))
      return {
        symbol,
        label: 'new reading',
        short: 'new',
        unit: instrument?.unit ?? 'g',
        instrument: instrument?.name ?? '',
        decimals,
        range: [0, 100],
        expected: (1).toFixed(decimals),
      }
    }
    case 'observations':
      return {
        symbol: free(
          'seen',
          (file.observations ?? []).map((o) => o.symbol),
        ),
        question: 'What do you see?',
        choices: ['yes', 'no'],
        expected: 'yes',
      }
    case 'steps':
      return { title: 'New step', text: 'What to do.', minutes: [5, 10] }
    case 'weighings': {
      const first = file.readings?.[0]?.symbol ?? ''
      return { scheme: 'tared', name: 'm_net', label: 'mass', reading: first }
    }
    case 'titres':
      return {
        name: 'V_titre',
        label: 'titre',
        start: file.readings?.[0]?.symbol ?? '',
        end: file.readings?.[1]?.symbol ?? '',
      }
    case 'methods':
      return { kind: 'recovery', taken: '1 g', recovered: '1 g' }
    case 'results':
      return {
        name: free(
          'result',
          (file.results ?? []).map((r) => r.name),
        ),
        label: 'new result',
        expression: '1',
        unit: '1',
        tolerance: '0.5 %',
      }
    case 'roles':
      return { definition: file.results?.[0]?.name ?? '', role: 'mass-fraction' }
    case 'reasons':
      return {
        name: free(
          'reason',
          (file.reasons ?? []).map((r) => r.name),
        ),
        label: 'Why?',
        marks: 1,
      }
    case 'pooled': {
      const [x, y] = (file.results ?? []).map((r) => r.name)
      return { label: 'one against the other', x: x ?? '', y: y ?? x ?? '' }
    }
    case 'assignments':
      return {
        name: free(
          'recipe A',
          (file.assignments ?? []).map((a) => a.name),
        ),
      }
    case 'unknowns':
      return {
        code: free(
          'K7',
          (file.unknowns ?? []).map((u) => u.code),
        ),
        is: 'what it is',
      }
    case 'class':
      return { result: file.results?.[0]?.name ?? '', mean: 90, sd: 5 }
    default:
      return {}
  }
}
