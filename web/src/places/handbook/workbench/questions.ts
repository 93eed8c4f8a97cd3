import type { ComputeRequest } from '@/api'

/** A field of a question: what is typed, and what stands there to begin with. */
export interface Field {
  key: string
  label: string
  example: string
  /** Can be left empty. */
  optional?: boolean
  wide?: boolean
  /** Lines that are shown at once, where more than one can be typed. */
  lines?: number
}

export type Typed = Readonly<Record<string, string>>

/** A question that the workbench asks the core. Chemistry happens there; here typed fields become a request. */
export interface Question {
  key: string
  title: string
  asks: string
  fields: readonly Field[]
  request: (typed: Typed) => ComputeRequest
}

const given = (text: string | undefined): string | null =>
  text === undefined || text.trim() === '' ? null : text.trim()
const text = (typed: Typed, key: string): string => typed[key]?.trim() ?? ''
const list = (typed: string): string[] =>
  typed
    .split(/[;\n]/)
    .map((t) => t.trim())
    .filter(Boolean)

export const QUESTIONS: readonly Question[] = [
  {
    key: 'formula',
    title: 'formula',
    asks: 'What is in it, and what does a mole weigh?',
    fields: [{ key: 'formula', label: 'formula', example: 'MgSO4·7H2O', wide: true }],
    request: (t) => ({ kind: 'formula', formula: text(t, 'formula') }),
  },
  {
    key: 'equation',
    title: 'equation',
    asks: 'Does it balance, and how?',
    fields: [
      {
        key: 'equation',
        label: 'equation',
        example: 'MnO4^- + Fe^2+ + H^+ -> Mn^2+ + Fe^3+ + H2O',
        wide: true,
      },
    ],
    request: (t) => ({ kind: 'equation', equation: text(t, 'equation') }),
  },
  {
    key: 'limiting',
    title: 'limiting reagent',
    asks: 'Which runs out, what is left, what could be made?',
    fields: [
      {
        key: 'equation',
        label: 'balanced equation',
        example: 'SrCl2 + Na2SO4 -> SrSO4 + 2 NaCl',
        wide: true,
      },
      { key: 'a', label: 'first reagent', example: 'SrCl2' },
      { key: 'a_as', label: 'weighed as', example: 'SrCl2·6H2O', optional: true },
      { key: 'a_used', label: 'used: mass, or volume; strength', example: '1.500 g', wide: true },
      { key: 'b', label: 'second reagent', example: 'Na2SO4' },
      { key: 'b_as', label: 'weighed as', example: '', optional: true },
      {
        key: 'b_used',
        label: 'used: mass, or volume; strength',
        example: '20.00 ± 0.03 mL; 0.200 ± 0.001 mol/L',
        wide: true,
      },
      { key: 'product', label: 'product', example: 'SrSO4', optional: true },
      { key: 'product_as', label: 'weighed as', example: '', optional: true },
      { key: 'actual', label: 'mass found', example: '0.684 g', optional: true },
    ],
    request: (t) => ({
      kind: 'reaction',
      ask: 'yield',
      equation: text(t, 'equation'),
      reagents: [reagent(t, 'a'), reagent(t, 'b')].filter((r) => r.species !== ''),
      product: given(t['product']),
      product_as: given(t['product_as']),
      actual: given(t['actual']),
    }),
  },
  {
    key: 'dilution',
    title: 'dilution',
    asks: 'How much stock, made up to which mark?',
    fields: [
      { key: 'stock', label: 'stock', example: '2.00 ± 0.02 mol/L' },
      { key: 'target', label: 'wanted', example: '0.150 mol/L' },
      { key: 'volume', label: 'to be made', example: '250.0 ± 0.15 mL' },
    ],
    request: (t) => ({
      kind: 'solution',
      ask: 'dilute',
      stock: text(t, 'stock'),
      target: text(t, 'target'),
      volume: text(t, 'volume'),
    }),
  },
  {
    key: 'solution',
    title: 'solution from a solid',
    asks: 'How much to weigh for this volume of this strength?',
    fields: [
      { key: 'solute', label: 'solid, as it is weighed', example: 'KHC8H4O4' },
      { key: 'strength', label: 'strength', example: '0.1000 mol/L' },
      { key: 'volume', label: 'to be made', example: '250.0 ± 0.15 mL' },
      { key: 'purity', label: 'purity', example: '99.95 %', optional: true },
      { key: 'step', label: 'balance shows steps of', example: '0.001 g', optional: true },
    ],
    request: (t) => ({
      kind: 'solution',
      ask: 'weigh-out',
      solute: text(t, 'solute'),
      strength: text(t, 'strength'),
      volume: text(t, 'volume'),
      purity: given(t['purity']),
      step: given(t['step']),
    }),
  },
  {
    key: 'titration',
    title: 'titration',
    asks: 'How strong is the titrant?',
    fields: [
      { key: 'primary', label: 'primary standard', example: 'KHC8H4O4' },
      { key: 'purity', label: 'purity', example: '99.95 %', optional: true },
      { key: 'mass', label: 'weighed', example: '5.110 ± 0.002 g' },
      { key: 'flask', label: 'made up to', example: '250.0 ± 0.15 mL' },
      { key: 'aliquot', label: 'titrated of it', example: '25.00 ± 0.03 mL' },
      { key: 'ratio', label: 'titrant for one of standard', example: '1' },
      {
        key: 'titres',
        label: 'titres, rough one in brackets, separated by ;',
        example: '(26.4 mL); 25.70 mL; 25.75 mL; 25.65 mL',
        wide: true,
      },
      { key: 'limit', label: 'agree within', example: '0.10 mL' },
      { key: 'blank', label: 'blank', example: '', optional: true },
    ],
    request: (t) => ({
      kind: 'titration',
      ask: 'standardise',
      primary: text(t, 'primary'),
      purity: given(t['purity']),
      mass: text(t, 'mass'),
      flask: text(t, 'flask'),
      aliquot: text(t, 'aliquot'),
      titres: list(text(t, 'titres')).map((one) => {
        const rough = /^\((.*)\)$/.exec(one)
        return { at: rough?.[1] ?? one, rough: rough !== null }
      }),
      limit: text(t, 'limit'),
      blank: given(t['blank']),
      ratio: text(t, 'ratio'),
    }),
  },
  {
    key: 'composition',
    title: 'composition',
    asks: 'Which formula do the masses allow?',
    fields: [
      { key: 'elements', label: 'elements, separated by ;', example: 'Zn; I' },
      {
        key: 'parts',
        label: 'mass or percent of each, separated by ;',
        example: '0.515 ± 0.004 g; 2.000 ± 0.004 g',
        wide: true,
      },
    ],
    request: (t) => ({
      kind: 'composition',
      ask: 'formula',
      elements: list(text(t, 'elements')),
      parts: list(text(t, 'parts')),
    }),
  },
  {
    key: 'hydrate',
    title: 'water of crystallisation',
    asks: 'How much water did it lose?',
    fields: [
      { key: 'salt', label: 'what is left', example: 'CaSO4' },
      { key: 'crucible', label: 'crucible', example: '24.405 ± 0.003 g' },
      { key: 'with_hydrate', label: 'with the hydrate', example: '26.409 ± 0.003 g' },
      { key: 'with_anhydrous', label: 'with the residue', example: '25.990 ± 0.003 g' },
      { key: 'candidates', label: 'numbers tried, separated by ;', example: '0.5; 1; 1.5; 2' },
    ],
    request: (t) => ({
      kind: 'composition',
      ask: 'hydrate',
      salt: text(t, 'salt'),
      crucible: text(t, 'crucible'),
      with_hydrate: text(t, 'with_hydrate'),
      with_anhydrous: text(t, 'with_anhydrous'),
      candidates: list(text(t, 'candidates')).map(Number).filter(Number.isFinite),
    }),
  },
  {
    key: 'curve',
    title: 'titration curve',
    asks: 'How does the pH run when a strong base is run into an acid?',
    fields: [
      { key: 'acid', label: 'concentration of the acid', example: '0.100 mol/L' },
      { key: 'volume', label: 'in the flask', example: '25.00 mL' },
      { key: 'base', label: 'concentration of the base', example: '0.100 mol/L' },
      { key: 'end', label: 'run in up to, same unit', example: '50' },
      {
        key: 'pka',
        label: 'pKa of the acid, lowest first, separated by ;',
        example: '4.76',
        optional: true,
        wide: true,
      },
    ],
    request: (t) => {
      const pka = list(text(t, 'pka')).map(Number).filter(Number.isFinite)
      return {
        kind: 'acid_base',
        ask: 'titration',
        flask: [
          { role: pka.length === 0 ? 'strong-acid' : 'weak-acid', concentration: text(t, 'acid'), pka },
        ],
        volume: text(t, 'volume'),
        titrant: { role: 'strong-base', concentration: text(t, 'base') },
        at: volumesTo(Number(text(t, 'end').replace(',', '.'))),
      }
    },
  },
  {
    key: 'line',
    title: 'calibration line',
    asks: 'What does the line through the standards say of an unknown?',
    fields: [
      { key: 'x', label: 'standards, separated by ;', example: '0; 2; 4; 6; 8; 10', wide: true },
      {
        key: 'y',
        label: 'their readings',
        example: '0.002; 0.099; 0.193; 0.290; 0.383; 0.481',
        wide: true,
      },
      { key: 'unknown', label: 'readings of the unknown', example: '0.301; 0.299; 0.300', wide: true },
      { key: 'blank', label: 'blank', example: '', optional: true },
      { key: 'dilution', label: 'dilution factor', example: '10', optional: true },
    ],
    request: (t) => ({
      kind: 'calibration',
      ask: 'unknown',
      points: { x: list(text(t, 'x')), y: list(text(t, 'y')) },
      unknown: list(text(t, 'unknown')),
      blank: list(text(t, 'blank')),
      dilution: given(t['dilution']),
    }),
  },
  {
    key: 'gas',
    title: 'gas over water',
    asks: 'How much gas is in the tube?',
    fields: [
      { key: 'volume', label: 'volume', example: '36.8 ± 0.2 mL' },
      { key: 'temperature', label: 'temperature', example: '19.0 ± 0.5 °C' },
      { key: 'pressure', label: 'air pressure', example: '1002.6 ± 0.5 hPa' },
      { key: 'column', label: 'water level inside above outside', example: '125 ± 1 mm', optional: true },
    ],
    request: (t) => ({
      kind: 'gas',
      ask: 'amount',
      sample: {
        volume: text(t, 'volume'),
        temperature: text(t, 'temperature'),
        pressure: text(t, 'pressure'),
        over_water: true,
        column: given(t['column']),
      },
    }),
  },
  {
    key: 'combustion',
    title: 'heat of combustion',
    asks: 'How much heat does a mole of fuel give, and how much was lost?',
    fields: [
      { key: 'fuel', label: 'fuel', example: 'C2H5OH' },
      { key: 'before', label: 'burner before', example: '205.10 ± 0.01 g' },
      { key: 'after', label: 'burner after', example: '204.02 ± 0.01 g' },
      { key: 'water', label: 'water in the can', example: '150.0 ± 0.5 mL' },
      { key: 'warmed', label: 'warmed by', example: '30.4 ± 0.2 K' },
      { key: 'accepted', label: 'accepted', example: '-1367 kJ/mol', optional: true },
    ],
    request: (t) => ({
      kind: 'calorimetry',
      ask: 'combustion',
      fuel: text(t, 'fuel'),
      before: text(t, 'before'),
      after: text(t, 'after'),
      water: text(t, 'water'),
      density: '1.00 ± 0 g/mL',
      specific_heat: '4.18 ± 0 J/(g K)',
      warmed: text(t, 'warmed'),
      accepted: given(t['accepted']),
    }),
  },
  {
    key: 'charge',
    title: 'electrolysis',
    asks: 'What part of the charge deposited the metal?',
    fields: [
      { key: 'substance', label: 'metal', example: 'Cu' },
      { key: 'electrons', label: 'electrons for each ion', example: '2' },
      { key: 'current', label: 'current', example: '0.400 ± 0.002 A' },
      { key: 'time', label: 'time', example: '30.0 ± 0.1 min' },
      { key: 'mass', label: 'mass gained', example: '0.236 ± 0.002 g' },
    ],
    request: (t) => ({
      kind: 'electrochemistry',
      ask: 'deposit',
      substance: text(t, 'substance'),
      electrons: Math.max(0, Math.trunc(Number(text(t, 'electrons')) || 0)),
      current: text(t, 'current'),
      time: text(t, 'time'),
      mass: given(t['mass']),
    }),
  },
  {
    key: 'sheet',
    title: 'a sheet of your own',
    asks: 'Any calculation, with units checked and its uncertainty.',
    fields: [
      {
        key: 'quantities',
        label: 'what was measured, one a line',
        example: 'm_Cu = 1.271 ± 0.002 g\nm_Cl = 1.418 ± 0.002 g\nm_sample = 2.689 ± 0.001 g',
        wide: true,
        lines: 4,
      },
      {
        key: 'materials',
        label: 'substances, one a line',
        example: 'copper = Cu\nchlorine = Cl',
        optional: true,
        wide: true,
        lines: 3,
      },
      {
        key: 'sheet',
        label: 'definitions, one a line',
        example:
          'n_Cu = m_Cu / M(copper)\nn_Cl = m_Cl / M(chlorine)\nsalt = formula(copper, n_Cu, chlorine, n_Cl)\nn_salt = m_sample / M(salt)',
        wide: true,
        lines: 6,
      },
    ],
    request: (t) => ({
      kind: 'sheet',
      quantities: named(text(t, 'quantities')).map(([symbol, value]) => ({ symbol, value })),
      materials: named(text(t, 'materials')).map(([symbol, formula]) => ({ symbol, formula })),
      sheet: text(t, 'sheet'),
    }),
  },
]

/** `m = 1.271 g`, one a line: the name, and what stands behind its first sign of equality. */
function named(lines: string): [string, string][] {
  return lines
    .split('\n')
    .filter((line) => line.trim() !== '')
    .map((line) => {
      const at = line.indexOf('=')
      return at < 0 ? [line.trim(), ''] : [line.slice(0, at).trim(), line.slice(at + 1).trim()]
    })
}

const POINTS = 400

/** Volumes of a curve, evenly from nothing; none where the end is none. */
function volumesTo(end: number): number[] {
  if (!(end > 0 && Number.isFinite(end))) return []
  return Array.from({ length: POINTS + 1 }, (_, i) => (end * i) / POINTS)
}

/** `1.500 g` is a solid; `20.00 mL; 0.200 mol/L` a solution; `5.5 mL; 1.082 g/mL; 97.0 %` a liquid. */
function reagent(typed: Typed, key: string) {
  const [first = '', second, third] = list(text(typed, `${key}_used`))
  const species = text(typed, key)
  const weighed_as = given(typed[`${key}_as`])
  if (second === undefined || /%$/.test(second)) {
    return { species, weighed_as, supply: { form: 'solid' as const, mass: first, purity: second ?? null } }
  }
  if (/mol|M$/.test(second)) {
    return {
      species,
      weighed_as,
      supply: { form: 'solution' as const, volume: first, concentration: second },
    }
  }
  return {
    species,
    weighed_as,
    supply: { form: 'liquid' as const, volume: first, density: second, purity: third ?? null },
  }
}

/** What stands in the fields of a question to begin with. */
export function examples(question: Question): Record<string, string> {
  return Object.fromEntries(question.fields.map((f) => [f.key, f.example]))
}

/** Whether enough is typed to ask. */
export function isAskable(question: Question, typed: Typed): boolean {
  return question.fields.every((f) => f.optional === true || text(typed, f.key) !== '')
}
