import type { PracticalFile, SheetRole } from '@/api'
import { answeringFields } from './answeringFields'
import { always, choice, flag, lines, names, number, text, type Field } from './fieldKinds'

export const ROLES = [
  'limiting',
  'excess',
  'product',
  'catalyst',
  'solvent',
  'quench',
  'wash',
  'indicator',
  'seed',
  'test',
  'titrant',
  'standard',
  'sample',
] as const

const SHEET_ROLES = [
  'amount',
  'mass',
  'concentration',
  'concentration-each',
  'mass-concentration',
  'mean-titre',
  'excess-left',
  'reacted',
  'extent',
  'actual-yield',
  'theoretical-yield',
  'percent-yield',
  'recovery',
  'mass-fraction',
  'parts-found',
  'percent-error',
] as const satisfies readonly SheetRole[]

const DISCLOSED = ['before', 'after-answer', 'instructor'] as const
const INSTRUMENT_KINDS = [
  'balance',
  'burette',
  'volumetric-pipette',
  'volumetric-flask',
  'measuring-cylinder',
  'graduated-pipette',
  'syringe',
  'dropping-pipette',
  'thermometer',
  'ph-meter',
  'ph-paper',
  'timer',
  'melting-point',
  'meter',
] as const

/** What every kind of item holds. Names that can be chosen come from the practical itself. */
export function fieldsOf(file: PracticalFile, techniques: readonly string[]): Record<string, Field[]> {
  const materials = (file.materials ?? []).map((m) => m.symbol)
  const readings = (file.readings ?? []).map((r) => r.symbol)
  const vessels = (file.vessels ?? []).map((v) => v.name)
  const reasons = (file.reasons ?? []).map((r) => r.name)
  const asked = [...(file.results ?? []).filter((r) => r.asked).map((r) => r.name), ...reasons]
  const material = (key: string, label: string) => choice(key, label, materials)
  const used = (key: string, label: string) => text(key, label, 'a reading, or a name that is defined')
  const pair = (first: Field, second: Field): Field[] => [first, second]
  return {
    head: [
      always(text('title', 'title')),
      always(text('kind', 'kind of work', 'salt preparation')),
      always(text('finds', 'what it finds', 'percent yield of a hydrated salt')),
      always(text('level', 'for whom')),
      always(number('visits', 'visits')),
      choice('atomic_masses', 'atomic masses', ['abridged', 'school']),
      choice('arrangement', 'several reactions', ['sequence', 'competing', 'parallel']),
      { key: 'disposal', label: 'what goes where afterwards', takes: { kind: 'long' } },
      lines('typical_errors', 'typical errors, a line each'),
      lines('questions', 'questions for the report, a line each'),
    ],
    reactions: [
      always(text('equation', 'equation', 'with coefficients; “balance it” finds them')),
      text('name', 'what to call it'),
      { key: 'predicts', label: 'what would be seen', takes: { kind: 'map' }, hint: 'observation = choice' },
      number('equilibrium', 'equilibrium constant'),
    ],
    materials: [
      always(text('name', 'substance')),
      always(text('formula', 'formula', 'as it is weighed or dissolved: MgSO4·7H2O')),
      always(choice('role', 'role', ROLES)),
      always(text('planned', 'planned for one group', '3.0 ± 0.1 g')),
      always({
        key: 'form',
        label: 'form',
        takes: {
          kind: 'union',
          tag: 'kind',
          of: {
            solid: [text('purity', 'purity', '98.5 % w/w; pure if empty')],
            solution: [
              text('strength', 'strength', '1.00 ± 0.01 mol/L · 9.0 g/L · 10 % w/v · 0.9 to 1.1 mol/L'),
              text('density', 'density', '1.18 g/mL; for w/w, and of the pure liquid for v/v'),
              text('dilution', 'dilution', '1 + 4 is added to, 1 in 5 is made up to'),
            ],
            liquid: [text('density', 'density', '0.789 g/mL'), text('purity', 'purity', '96 % w/w')],
            gas: [text('temperature', 'temperature', '20 °C'), text('pressure', 'pressure', '101.3 kPa')],
          },
        },
      }),
      text('symbol', 'symbol in the sheet'),
      text('also', 'common name or remark'),
      text('supplies', 'species that it supplies', 'where the equation has ions: Sr^2+'),
      { key: 'hydrates', label: 'waters it is sold with', takes: { kind: 'numbers' }, hint: '0, 1, 7' },
      names('mixture_of', 'may be a mixture of', materials),
      lines('hazards', 'hazard statements of this form and strength, a line each'),
      text('waste', 'disposal group of what is left', 'heavy metals'),
      {
        key: 'solubility',
        label: 'solubility in 100 g of water',
        takes: {
          kind: 'group',
          empty: true,
          of: [
            text('of', 'grams of', 'the formula counted: MgSO4'),
            {
              key: 'at',
              label: '°C, g — a line each',
              takes: { kind: 'rows', of: pair(number('0', '°C'), number('1', 'g')) },
            },
          ],
        },
      },
      number('ksp', 'solubility product'),
      text('melts', 'melts', '113 to 115 °C'),
      text('boils', 'boils', '78 °C'),
      text('bears', 'bears at most', '48 °C'),
    ],
    instruments: [
      always(text('name', 'name in the room')),
      always(choice('kind', 'kind', INSTRUMENT_KINDS)),
      always(text('unit', 'unit')),
      always(number('resolution', 'step')),
      number('tolerance', 'tolerance, either way'),
      number('repeatability', 'repeatability, s'),
      number('capacity', 'capacity'),
      number('sensitivity', 'relative error of a balance'),
    ],
    vessels: [
      always(text('name', 'name')),
      always(text('capacity', 'holds', '100 mL')),
      flag('tagged', 'carries a tag'),
      choice('weighed_as', 'weighed empty by', readings, true),
    ],
    resources: [
      always(text('name', 'name')),
      always(number('count', 'how many')),
      always(number('groups', 'groups at once')),
    ],
    readings: [
      always(text('label', 'what is read')),
      always(text('short', 'in one or two words')),
      always(
        choice(
          'instrument',
          'instrument',
          (file.instruments ?? []).map((i) => i.name),
        ),
      ),
      always(text('unit', 'unit')),
      always(text('expected', 'expected')),
      always({ key: 'range', label: 'should lie from, to', takes: { kind: 'pair' } }),
      number('decimals', 'decimals'),
      text('symbol', 'symbol in the sheet'),
      choice('of', 'measures the material', materials, true),
      choice('kind', 'kind of reading', ['number', 'interval', 'count', 'span']),
      {
        key: 'repeats',
        label: 'repeated',
        takes: {
          kind: 'group',
          empty: true,
          of: [
            text('axis', 'for each', 'trial, crop, heating'),
            number('most', 'at most'),
            number('rough', 'rough at first'),
          ],
        },
      },
      choice('against', 'plotted against', readings, true),
      choice('compared_with', 'melting range compared with', readings, true),
    ],
    observations: [
      always(text('question', 'question')),
      always(lines('choices', 'what can be seen, a line each')),
      always(text('expected', 'what is seen when all is well')),
      text('symbol', 'name in the file'),
      choice('kind', 'kind', ['choice', 'spot-test', 'code', 'note']),
      text('when', 'when to look', '5 min after the ice'),
      text('positive_control', 'positive control'),
      text('negative_control', 'negative control'),
      { key: 'means', label: 'what a choice means, told at once', takes: { kind: 'map' } },
    ],
    steps: [
      always(text('title', 'in a few words')),
      always({ key: 'text', label: 'what to do', takes: { kind: 'long' } }),
      always(choice('technique', 'technique', techniques, true)),
      always({ key: 'minutes', label: 'minutes, from, to', takes: { kind: 'pair' } }),
      always(names('records', 'readings taken', readings)),
      always(lines('cautions', 'cautions, a line each')),
      names(
        'observes',
        'observations made',
        (file.observations ?? []).map((o) => o.symbol),
      ),
      names('answers', 'results asked for', asked),
      text('wait', 'wait that needs nobody', '24 h · 1 to 7 days · at least 1 day'),
      flag('stopping_point', 'safe to stop afterwards'),
      text('temperature', 'temperature', '60 °C'),
      choice('heat', 'heated by', ['flame', 'water-bath', 'hot-plate', 'mantle', 'oven'], true),
      {
        key: 'stop',
        label: 'done when',
        takes: {
          kind: 'union',
          tag: 'until',
          empty: true,
          of: {
            dissolved: [],
            'ph-at-most': [number('ph', 'pH')],
            'ph-at-least': [number('ph', 'pH')],
            colour: [text('to', 'colour', 'first lasting pink')],
            'constant-mass': [text('within', 'within', '0.02 g')],
            'dripping-stops': [],
            temperature: [text('reaches', 'reaches', '60 °C')],
            time: [text('lasts', 'for', '10 min'), text('from', 'from when', 'it boils')],
          },
        },
      },
      number('portions', 'portions'),
      {
        key: 'neutralises',
        label: 'brought to neutral',
        takes: {
          kind: 'group',
          empty: true,
          of: [
            choice('what', 'what is there', materials),
            choice('with', 'with', materials),
            number('ratio', 'times its amount'),
          ],
        },
      },
      choice('vessel', 'vessel', vessels, true),
      {
        key: 'adds',
        label: 'what goes in, in this order',
        takes: {
          kind: 'rows',
          of: [material('material', 'material'), text('amount', 'amount', 'what is planned, if empty')],
        },
      },
      choice('pours_into', 'liquid goes over into', vessels, true),
      text('leaves', 'liquid left', '6 mL'),
      {
        key: 'dissolves',
        label: 'must dissolve',
        takes: {
          kind: 'group',
          empty: true,
          of: [
            material('material', 'material'),
            text('water', 'in water', '50 mL'),
            text('at', 'at', '20 °C'),
          ],
        },
      },
      {
        key: 'crystallises',
        label: 'crystallises',
        takes: {
          kind: 'group',
          empty: true,
          of: [
            material('product', 'product'),
            text('water', 'from water, in all', '5 g'),
            text('at', 'at', '20 °C'),
            text('washed_with', 'washed with ice water', '2 mL'),
            {
              key: 'second_crop',
              label: 'a second crop',
              takes: {
                kind: 'group',
                empty: true,
                of: [
                  text('evaporated_to', 'liquor evaporated to', '3 mL'),
                  text('worth', 'worth it from', '0.5 g'),
                  choice('liquor', 'volume of the liquor, where it is read', readings, true),
                ],
              },
            },
          ],
        },
      },
      choice('boils', 'boils', materials, true),
      choice('dries', 'is dried', materials, true),
      names(
        'uses',
        'takes of the room',
        (file.resources ?? []).map((r) => r.name),
      ),
      {
        key: 'variants',
        label: 'other ways of doing it',
        takes: { kind: 'rows', of: [text('name', 'name', 'ice bath'), text('text', 'what to do instead')] },
      },
    ],
    weighings: [
      always(text('name', 'name of the mass')),
      always(text('label', 'in words')),
      always({
        key: '',
        label: 'scheme',
        takes: {
          kind: 'union',
          tag: 'scheme',
          of: {
            tared: [choice('reading', 'reading', readings)],
            'by-difference': [choice('before', 'before', readings), choice('after', 'after', readings)],
            'container-and-contents': [
              choice('gross', 'with its container', readings),
              names('containers', 'containers', readings),
            ],
            'matched-blank': [
              choice('gross', 'with its paper', readings),
              choice('blank', 'blank paper', readings),
            ],
          },
        },
      }),
    ],
    titres: [
      always(text('name', 'name of the titre')),
      always(text('label', 'in words')),
      always(choice('start', 'initial reading', readings)),
      always(choice('end', 'final reading', readings)),
    ],
    methods: [
      always({
        key: '',
        label: 'method',
        takes: {
          kind: 'union',
          tag: 'kind',
          of: {
            'limiting-yield': [
              {
                key: 'reagents',
                label: 'reagents',
                takes: { kind: 'rows', of: [material('material', 'reagent'), used('reading', 'how much')] },
              },
              material('product', 'product'),
              used('product_mass', 'its mass'),
            ],
            yield: [
              {
                key: 'reagent',
                label: 'reagent',
                takes: { kind: 'group', of: [material('material', 'reagent'), used('reading', 'how much')] },
              },
              material('product', 'product'),
              used('product_mass', 'its mass'),
            ],
            recovery: [used('taken', 'taken'), used('recovered', 'got back')],
            standardise: [
              material('titrant', 'titrant'),
              {
                key: 'standard',
                label: 'standard',
                takes: {
                  kind: 'group',
                  of: [material('material', 'substance'), used('reading', 'how much')],
                },
              },
              used('titre', 'titre'),
              used('blank', 'blank'),
              text('limit', 'concordant within', 'of aliquots only: 0.10 mL'),
              text('rsd', 'concentrations scatter by at most', 'of weighed standards: 0.5 %'),
              number('trials', 'accurate trials at least'),
            ],
            titrate: [
              material('sample', 'sample'),
              used('aliquot', 'aliquot'),
              material('titrant', 'titrant'),
              used('titre', 'titre'),
              text('limit', 'concordant within', '0.10 mL'),
              text('rsd', 'or all of them within', '0.3 %'),
              number('trials', 'titres that have to agree'),
              used('blank', 'blank'),
              text('dilution', 'diluted', 'how many times, as a number'),
              flag('as_mass', 'also in grams for each litre'),
            ],
            'back-titration': [
              material('sample', 'sample'),
              {
                key: 'excess',
                label: 'excess reagent',
                takes: { kind: 'group', of: [material('material', 'reagent'), used('reading', 'how much')] },
              },
              material('titrant', 'titrant'),
              used('titre', 'titre'),
              text('limit', 'concordant within', '0.10 mL'),
              text('rsd', 'or all of them within', '0.3 %'),
              number('trials', 'titres that have to agree'),
              used('sample_mass', 'mass of the sample'),
            ],
            'empirical-formula': [
              {
                key: 'elements',
                label: 'elements',
                takes: {
                  kind: 'rows',
                  of: [text('material', 'material or element'), used('mass', 'its mass')],
                },
              },
              number('most', 'largest subscript'),
            ],
            hydrate: [
              material('anhydrous', 'salt without water'),
              used('residue', 'its mass'),
              material('water', 'water'),
              used('lost', 'mass of water lost'),
            ],
            'mass-fraction': [used('component', 'component'), used('sample', 'sample')],
            gravimetric: [
              material('analyte', 'analyte'),
              material('precipitate', 'precipitate'),
              used('precipitate_mass', 'its mass'),
              used('sample_mass', 'mass of the sample'),
            ],
            'mass-balance': [
              lines('parts', 'masses of the parts, a line each'),
              used('whole', 'mass of the sample'),
            ],
            'solution-made': [
              {
                key: 'solute',
                label: 'solute',
                takes: {
                  kind: 'group',
                  of: [material('material', 'substance'), used('reading', 'how much')],
                },
              },
              used('volume', 'made up to'),
            ],
            'percent-error': [used('found', 'found'), text('accepted', 'accepted', '0.1000 mol/L')],
          },
        },
      }),
    ],
    results: [
      always(text('label', 'what comes out')),
      always(text('name', 'name in the sheet')),
      always(
        text('expression', 'expression', 'of one’s own; what a method defines under this name, if empty'),
      ),
      always(text('unit', 'unit')),
      always(flag('asked', 'groups work it out')),
      { key: 'units', label: 'units to choose from, a line each', takes: { kind: 'lines' } },
      choice('answer', 'what is answered', ['number', 'formula', 'limiting']),
      choice('digits', 'digits', ['as-fewest', 'as-fewest-within-one', 'at-least-two']),
      text('tolerance', 'tolerance', '0.5 % · 0.02 g · 1 in the last digit'),
      choice('disclosed', 'shown at the bench', DISCLOSED),
      text('wanted', 'how good it should be', '1 %'),
      {
        key: 'marks',
        label: 'marks',
        takes: {
          kind: 'group',
          of: [
            number('method', 'method'),
            number('value', 'value'),
            number('unit', 'unit'),
            number('digits', 'digits'),
          ],
        },
      },
    ],
    roles: [
      always(used('definition', 'definition')),
      always(choice('role', 'stands for', SHEET_ROLES)),
      always(text('of', 'of', 'the material, or the titre')),
    ],
    assignments: [
      always(text('name', 'name', 'recipe A')),
      always({ key: 'planned', label: 'planned amounts', takes: { kind: 'map' }, hint: 'acid = 20.0 mL' }),
      always({ key: 'expected', label: 'expected readings', takes: { kind: 'map' }, hint: 'V_acid = 20.00' }),
      choice('limiting', 'meant to limit', materials, true),
      choice(
        'unknown',
        'unknown',
        (file.unknowns ?? []).map((u) => u.code),
        true,
      ),
      { key: 'accepted', label: 'accepted values', takes: { kind: 'map' }, hint: 'c_base = 0.0973 mol/L' },
    ],
    trial_run: [
      {
        key: 'trial_run',
        label: 'the instructor’s trial run',
        takes: {
          kind: 'group',
          empty: true,
          of: [
            text('note', 'note'),
            { key: 'readings', label: 'as read: symbol = number', takes: { kind: 'map' } },
          ],
        },
      },
    ],
    disclosure: [
      choice('limiting', 'which reagent limits', DISCLOSED, true),
      choice('yield', 'a yield that cannot be', DISCLOSED, true),
      choice('concordance', 'whether titres agree', DISCLOSED, true),
      choice('dryness', 'whether it is dry', DISCLOSED, true),
      choice('needed', 'how much is still needed', DISCLOSED, true),
      choice('purity', 'whether it is pure', DISCLOSED, true),
    ],
    ...answeringFields(file),
    unknowns: [always(text('code', 'code on it')), always(text('is', 'what it is'))],
    class: [
      always(
        choice(
          'result',
          'result',
          (file.results ?? []).map((r) => r.name),
        ),
      ),
      always(number('mean', 'mean')),
      always(number('sd', 'standard deviation')),
      text('when', 'when'),
    ],
  }
}
