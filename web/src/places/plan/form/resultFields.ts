import * as choices from './choices'
import { always, choice, flag, number, text, type Field, used } from './fieldKinds'
import type { Named } from './named'

/** What comes out, what own definitions stand for, and what differs from group to group. */
export function resultFields({ materials, unknowns }: Named): Record<string, Field[]> {
  return {
    results: [
      always(text('label', 'what comes out')),
      always(text('name', 'name in the sheet')),
      always(
        text('expression', 'expression', 'of one’s own; what a method defines under this name, if empty'),
      ),
      always(text('unit', 'unit')),
      always(flag('asked', 'groups work it out')),
      { key: 'units', label: 'units to choose from, a line each', takes: { kind: 'lines' } },
      choice('answer', 'what is answered', choices.ANSWER_KINDS),
      choice('digits', 'digits', choices.DIGITS, true),
      text('tolerance', 'tolerance', '0.5 % · 0.02 g · 1 in the last digit'),
      choice('disclosed', 'shown at the bench', choices.DISCLOSED),
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
      always(choice('role', 'stands for', choices.SHEET_ROLES)),
      always(text('of', 'of', 'the material, or the titre')),
    ],
    assignments: [
      always(text('name', 'name', 'recipe A')),
      always({ key: 'planned', label: 'planned amounts', takes: { kind: 'map' }, hint: 'acid = 20.0 mL' }),
      always({ key: 'expected', label: 'expected readings', takes: { kind: 'map' }, hint: 'V_acid = 20.00' }),
      { key: 'observed', label: 'what its groups see', takes: { kind: 'map' }, hint: 'litmus = turns red' },
      choice('limiting', 'meant to limit', materials, true),
      choice('unknown', 'unknown', unknowns, true),
      { key: 'accepted', label: 'accepted values', takes: { kind: 'map' }, hint: 'c_base = 0.0973 mol/L' },
    ],
  }
}
