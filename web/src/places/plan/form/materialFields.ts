import * as choices from './choices'
import { always, choice, flag, lines, names, number, text, type Field } from './fieldKinds'
import type { Named } from './named'

/** Substances, and the forms that they are supplied in. */
export function materialFields({ materials }: Named): Record<string, Field[]> {
  return {
    materials: [
      always(text('name', 'substance')),
      always(text('formula', 'formula', 'as it is weighed or dissolved: MgSO4·7H2O')),
      always(choice('role', 'role', choices.ROLES)),
      always(text('planned', 'planned', '3.0 ± 0.1 g · 3 drops · a spatula tip')),
      text('each', 'of the group, or of each', 'group · trial · portion · fraction'),
      text('drop', 'one drop of it', '0.05 mL'),
      always({
        key: 'form',
        label: 'form',
        takes: {
          kind: 'union',
          tag: 'kind',
          of: {
            solid: [text('purity', 'purity', '98.5 % w/w; pure if empty')],
            solution: [
              text('strength', 'strength', '1.00 ± 0.01 mol/L · about 0.1 mol/L · 9.0 g/L · 10 % w/v'),
              text('density', 'density', '1.18 g/mL; for w/w, and of the pure liquid for v/v'),
              text('dilution', 'dilution', '1 + 4 is added to, 1 in 5 is made up to'),
            ],
            liquid: [
              text('density', 'density', '0.789 g/mL'),
              text('purity', 'purity', '96 % w/w · 96 % v/v'),
              flag('weighed', 'weighed, not measured by volume'),
            ],
            saturated: [text('at', 'saturated at', '20 °C'), text('density', 'density', '1.20 g/mL')],
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
              takes: { kind: 'rows', of: [number('0', '°C'), number('1', 'g')] },
            },
          ],
        },
      },
      number('ksp', 'solubility product'),
      text('melts', 'melts', '113 to 115 °C'),
      text('boils', 'boils', '78 °C'),
      text('bears', 'highest drying temperature', '48 °C'),
    ],
  }
}
