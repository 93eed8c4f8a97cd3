import * as choices from './choices'
import { always, choice, lines, number, text, type Field } from './fieldKinds'
import type { Named } from './named'

/** What is read and what is seen. */
export function benchFields({ materials, readings, instruments }: Named): Record<string, Field[]> {
  return {
    readings: [
      always(text('label', 'what is read')),
      always(text('short', 'in one or two words')),
      always(choice('instrument', 'instrument', instruments)),
      always(text('unit', 'unit')),
      always(text('expected', 'expected')),
      lines('points', 'expected values of a series, one a line'),
      always({ key: 'range', label: 'normal range, from, to', takes: { kind: 'pair' } }),
      number('decimals', 'decimals'),
      text('symbol', 'symbol in the sheet'),
      choice('of', 'measures the material', materials, true),
      choice('kind', 'kind of reading', choices.READING_KINDS),
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
            number('enough', 'enough are'),
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
      choice('kind', 'kind', choices.OBSERVATION_KINDS),
      text('when', 'when to look', '5 min after the ice'),
      text('positive_control', 'positive control'),
      text('negative_control', 'negative control'),
      { key: 'means', label: 'what a choice means, told at once', takes: { kind: 'map' } },
      {
        key: 'evidence',
        label: 'is evidence',
        takes: {
          kind: 'group',
          empty: true,
          of: [
            choice('of', 'of', choices.EVIDENCE_OF),
            {
              key: 'says',
              label: 'which material limits',
              takes: { kind: 'map' },
              hint: 'fizzes = carbonate',
            },
          ],
        },
      },
    ],
  }
}
