import { CURVES, INDICATORS } from './choices'
import { always, choice, flag, lines, names, number, text, type Field, used } from './fieldKinds'
import type { Named } from './named'

/** From readings to masses, titres and results. */
export function methodFields({ materials, readings }: Named): Record<string, Field[]> {
  const material = (key: string, label: string) => choice(key, label, materials)
  return {
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
      text('end_point', 'end point, either way', '0.03 mL'),
      {
        key: 'agree',
        label: 'its trials agree',
        takes: {
          kind: 'group',
          empty: true,
          of: [
            used('of', 'compared by'),
            text('limit', 'within', '0.10 mL'),
            text('rsd', 'rsd at most', '0.5 %'),
            number('trials', 'how many'),
          ],
        },
      },
      {
        key: 'curve',
        label: 'acid and base, to practise on',
        takes: {
          kind: 'group',
          of: [
            choice('titrated', 'in the flask', CURVES),
            { key: 'pka', label: 'its pKa, of each proton', takes: { kind: 'numbers' } },
            choice('indicator', 'indicator', INDICATORS),
            text('titrant', 'titrant, about', '0.1 mol/L'),
            text('flask', 'liquid in the flask', '50 mL'),
          ],
        },
      },
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
            recovery: [used('taken', 'taken'), used('recovered', 'recovered')],
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
              text('dilution', 'dilution factor', 'how many times, as a number'),
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
              text('scatter', 'scatter of the chemistry', '2 %'),
              text('accepted', 'accepted formula', 'ZnI2'),
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
            calibration: [
              used('x', 'standards: what is known'),
              used('y', 'standards: what is read'),
              used('unknown', 'unknown: what is read'),
              flag('through_zero', 'the line goes through zero'),
              text('dilution', 'dilution factor of the unknown', '10'),
            ],
            calorimetry: [
              {
                key: 'reagents',
                label: 'reagents',
                takes: { kind: 'rows', of: [material('material', 'reagent'), used('reading', 'how much')] },
              },
              used('heated', 'mass that is heated'),
              text('specific_heat', 'its specific heat', '4.18 J/(g K)'),
              text('calorimeter', 'heat capacity of the cup', '12 J/K'),
              choice('before', 'temperature before mixing', readings),
              choice('after', 'temperature after mixing', readings),
              choice('times', 'times of those readings', readings),
              text('mixed_at', 'time of mixing', '3 min'),
            ],
            gas: [
              material('gas', 'gas'),
              used('volume', 'its volume'),
              choice('temperature', 'its temperature', readings),
              choice('pressure', 'air pressure', readings),
              flag('over_water', 'caught over water'),
              used('column', 'water level inside above outside'),
            ],
            charge: [
              used('current', 'current'),
              used('time', 'time'),
              number('electrons', 'electrons for each formula unit'),
              material('product', 'what is deposited'),
              used('product_mass', 'its mass'),
            ],
            'percent-error': [used('found', 'found'), text('accepted', 'accepted', '0.1000 mol/L')],
          },
        },
      }),
      text('as', 'called, where there are several of its kind', 'crude'),
    ],
  }
}
