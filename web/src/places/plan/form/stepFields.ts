import * as choices from './choices'
import { always, choice, flag, lines, names, number, text, type Field } from './fieldKinds'
import type { Named } from './named'

/** Steps, and what follows from each. */
export function stepFields({
  materials,
  readings,
  vessels,
  asked,
  techniques,
  observations,
  resources,
}: Named): Record<string, Field[]> {
  const material = (key: string, label: string) => choice(key, label, materials)
  return {
    steps: [
      always(text('title', 'in a few words')),
      always({ key: 'text', label: 'what to do', takes: { kind: 'long' } }),
      always(choice('technique', 'technique', techniques, true)),
      always({ key: 'minutes', label: 'minutes, from, to', takes: { kind: 'pair' } }),
      always(names('records', 'readings taken', readings)),
      always(lines('cautions', 'cautions, a line each')),
      names('observes', 'observations made', observations),
      names('answers', 'results asked for', asked),
      { key: 'when', label: 'only if seen: observation = choice', takes: { kind: 'map' } },
      text('within', 'begins at most so long after the step before', '5 min'),
      text('wait', 'unattended wait', '24 h · 1 to 7 days · at least 1 day'),
      { key: 'held', label: 'holds for a part only: resource = 3 min last', takes: { kind: 'map' } },
      flag('stopping_point', 'safe to stop afterwards'),
      text('temperature', 'temperature', '60 °C'),
      choice('heat', 'heated by', choices.HEATS, true),
      {
        key: 'stop',
        label: 'done when',
        takes: {
          kind: 'union',
          tag: 'until',
          empty: true,
          of: {
            dissolved: [],
            'rises-to': [
              text('to', 'level', '60 °C · pH 8.0'),
              text('past', 'past it beyond', '3 °C'),
              choice('reading', 'shown by', readings, true),
            ],
            'falls-to': [
              text('to', 'level', '7 °C · pH 4.0'),
              text('past', 'past it beyond', '3 °C'),
              choice('reading', 'shown by', readings, true),
            ],
            'at-most': [text('value', 'level', 'pH 2.0'), choice('reading', 'shown by', readings, true)],
            'at-least': [text('value', 'level', 'pH 9.0'), choice('reading', 'shown by', readings, true)],
            within: [
              text('value', 'level', 'pH 5.00'),
              text('by', 'within', '0.05'),
              text('above', 'if above', 'add acid dropwise'),
              text('below', 'if below', 'add base dropwise'),
              choice('reading', 'shown by', readings, true),
            ],
            'not-above': [text('limit', 'limit', '55 °C'), choice('reading', 'shown by', readings, true)],
            'stays-within': [
              text('value', 'level', '60 °C'),
              text('by', 'within', '3 °C'),
              text('lasts', 'for', '10 min'),
              choice('reading', 'shown by', readings, true),
            ],
            'ph-at-most': [number('ph', 'pH')],
            'ph-at-least': [number('ph', 'pH')],
            colour: [
              text('to', 'colour', 'first lasting pink'),
              lines('past', 'choices that show it was passed, a line each'),
            ],
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
      names('uses', 'shared equipment used', resources),
      {
        key: 'variants',
        label: 'other ways of doing it',
        takes: { kind: 'rows', of: [text('name', 'name', 'ice bath'), text('text', 'what to do instead')] },
      },
    ],
  }
}
