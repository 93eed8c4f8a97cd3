import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import type { Instrument, PracticalFile } from '@/api'
import { editOf } from './edits'
import { blankOf, free } from './blank'
import { withCoefficients } from './coefficients'
import type { Field } from './fieldKinds'
import { fieldsOf } from './fields'

interface Schema {
  properties: Record<string, { items?: { $ref?: string } }>
  required?: string[]
  $defs: Record<string, { properties?: Record<string, unknown>; required?: string[]; oneOf?: Schema[] }>
}

/** The schema of the practical file, as the server writes it. */
const schema = JSON.parse(readFileSync('../docs/practical.schema.json', 'utf8')) as Schema

const file = {
  format: '1.0',
  id: 'x',
  title: 'x',
  kind: '',
  finds: '',
  level: '',
  visits: 1,
  materials: [
    { symbol: 'acid', name: 'acid', role: 'limiting', form: { kind: 'solid' } },
    { symbol: 'salt', name: 'salt', role: 'product', form: { kind: 'solid' } },
  ],
  readings: [
    reading('m_acid', 'g', 2, [2.9, 3.1], 'acid'),
    reading('V_acid', 'mL', 1, [20, 30], 'acid'),
    reading('m_full', 'g', 2, [40, 60], 'salt'),
    reading('m_dish', 'g', 2, [40, 60], null),
  ],
  weighings: [
    { scheme: 'container-and-contents', name: 'm', label: 'm', gross: 'm_full', containers: ['m_dish'] },
  ],
} as unknown as PracticalFile

function reading(symbol: string, unit: string, decimals: number, range: number[], of: string | null) {
  return { symbol, label: symbol, short: symbol, unit, instrument: 'b', decimals, range, expected: '1', of }
}

const kit: Instrument[] = [
  {
    name: 'Balance, 0.01 g',
    kind: 'balance',
    unit: 'g',
    resolution: 0.01,
    tolerance: 0.01,
    repeatability: 0.005,
    capacity: 300,
    sensitivity: 0,
  },
]

const itemOf = (section: string) => {
  const name = schema.properties[section]?.items?.$ref?.replace('#/$defs/', '')
  return name === undefined ? undefined : schema.$defs[name]
}

/** Names of the fields that a form has for an item, those of every kind of a union included. */
function keysOf(fields: readonly Field[]): string[] {
  return fields.flatMap((f) => {
    if (f.takes.kind !== 'union' || f.key !== '') return [f.key]
    return [f.takes.tag, ...Object.values(f.takes.of).flatMap(keysOf)]
  })
}

describe('the form of a practical', () => {
  const fields = fieldsOf(file, ['washing'])

  it.each([
    'reactions',
    'materials',
    'instruments',
    'vessels',
    'resources',
    'readings',
    'observations',
    'steps',
    'titres',
    'results',
    'assignments',
    'unknowns',
    'class',
    'reasons',
    'pooled',
  ])('can say everything that the file can: %s', (section) => {
    const known = Object.keys(itemOf(section)?.properties ?? {})
    expect(known.length).toBeGreaterThan(1)
    expect([...keysOf(fields[section] ?? [])].sort()).toEqual(known.sort())
  })

  it.each([
    ['feedback', 'Feedback'],
    ['marking', 'Marking'],
    ['school', 'SchoolItem'],
  ])('has a field for everything under [%s]', (table, named) => {
    const known = Object.keys(schema.$defs[named]?.properties ?? {})
    expect(known.length).toBeGreaterThan(2)
    expect([...keysOf(fields[table] ?? [])].sort()).toEqual(known.sort())
  })

  it('asks for reasons and draws lines with names that are free and there', () => {
    const asked = { ...file, reasons: [{ name: 'reason', label: 'Why?', model: '', marks: 1 }] }
    expect(blankOf('reasons', asked, kit)).toMatchObject({ name: 'reason_2' })
    const results = [{ name: 'n' }, { name: 'm' }] as NonNullable<PracticalFile['results']>
    expect(blankOf('pooled', { ...file, results }, kit)).toMatchObject({ x: 'n', y: 'm' })
    // A step can ask for a reason as it asks for a result.
    const answers = fieldsOf(asked, [])['steps']?.find((f) => f.key === 'answers')?.takes
    expect(answers).toEqual({ kind: 'names', of: ['reason'] })
  })

  it.each(['weighings', 'methods'])('knows every kind of %s with everything that it holds', (section) => {
    const union = fields[section]?.find((f) => f.takes.kind === 'union')?.takes
    if (union?.kind !== 'union') throw new Error('a union')
    for (const variant of itemOf(section)?.oneOf ?? []) {
      const tag = (variant.properties[union.tag] as unknown as { enum: string[] }).enum[0] ?? ''
      const outside = [
        union.tag,
        ...keysOf(fields[section] ?? []).filter((k) => ['name', 'label', 'as'].includes(k)),
      ]
      const own = [...outside, ...(union.of[tag] ?? []).map((f) => f.key)]
      expect([...new Set(own)].sort(), tag).toEqual(Object.keys(variant.properties).sort())
    }
  })

  it.each([
    'reactions',
    'materials',
    'readings',
    'observations',
    'steps',
    'results',
    'vessels',
    'resources',
    'instruments',
  ])('begins a sound item: %s', (section) => {
    const item = itemOf(section)
    const fresh = blankOf(section, file, kit)
    expect(Object.keys(fresh)).toEqual(expect.arrayContaining(item?.required ?? []))
    for (const key of Object.keys(fresh)) expect(Object.keys(item?.properties ?? {})).toContain(key)
  })

  it('finds a name that nothing has', () => {
    expect(free('acid', ['acid', 'acid_2'])).toBe('acid_3')
    expect(free('base', ['acid'])).toBe('base')
  })
})

describe('a planned amount', () => {
  it('is planned, so that its readings go along; every other field is set', () => {
    expect(editOf(['materials', 0, 'planned'], '2.5 ± 0.2 g')).toEqual({
      kind: 'plan',
      material: 0,
      planned: '2.5 ± 0.2 g',
    })
    expect(editOf(['materials', 0, 'planned'], null)).toMatchObject({ kind: 'set', value: null })
    expect(editOf(['materials', 0, 'name'], '2.5 g')).toMatchObject({ kind: 'set', value: '2.5 g' })
  })
})

describe('balancing an equation as typed', () => {
  it.each([
    ['AgNO3 + CaCl2 -> AgCl + Ca(NO3)2', ['2', '1'], ['2', '1'], '2 AgNO3 + CaCl2 -> 2 AgCl + Ca(NO3)2'],
    ['3 H2 + O2 = 7 H2O', ['2', '1'], ['2'], '2 H2 + O2 -> 2 H2O'],
    ['4MgCO3·Mg(OH)2·5H2O + H2SO4 → MgSO4', ['1', '5'], ['5'], '1 4MgCO3·Mg(OH)2·5H2O + 5 H2SO4 -> 5 MgSO4'],
  ])('%s', (typed, reactants, products, balanced) => {
    expect(withCoefficients(typed, { reactants, products })).toBe(balanced)
  })
})
