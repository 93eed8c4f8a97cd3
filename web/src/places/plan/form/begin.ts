import type { Field } from './fieldKinds'

/** What a field of a newly chosen kind begins with, so that the text has the shape it must have. */
export function begin(field: Field): unknown {
  switch (field.takes.kind) {
    case 'choice':
      return field.takes.empty ? null : (field.takes.of[0] ?? '')
    case 'names':
      return field.takes.of.slice(0, 1)
    case 'rows':
      return [Object.fromEntries(field.takes.of.map((f) => [f.key, begin(f)]))]
    case 'group':
      return Object.fromEntries(field.takes.of.map((f) => [f.key, begin(f)]))
    case 'number':
      return OPTIONAL_NUMBERS.includes(field.key) ? null : 0
    case 'lines':
      return OPTIONAL.includes(field.key) ? null : ['']
    case 'flag':
    case 'union':
      return null
    case 'map':
      return {}
    case 'text':
    case 'long':
    case 'pair':
    case 'numbers':
      return OPTIONAL.includes(field.key) ? null : (EXAMPLES[field.key] ?? '')
  }
}

const OPTIONAL = [
  'purity',
  'density',
  'dilution',
  'blank',
  'amount',
  'washed_with',
  'past',
  'above',
  'below',
  'scatter',
  'rsd',
  'of',
]
const OPTIONAL_NUMBERS = ['most', 'enough', 'trials']
const EXAMPLES: Record<string, string> = {
  strength: '1.00 mol/L',
  temperature: '20 °C',
  pressure: '101.3 kPa',
  limit: '0.10 mL',
  within: '0.02 g',
  reaches: '60 °C',
  lasts: '10 min',
  from: 'it boils',
  to: 'colourless',
  water: '50 mL',
  at: '20 °C',
  value: 'pH 5.0',
  by: '0.1',
  axis: 'trial',
  titre: 'V_titre',
  accepted: '1',
}
