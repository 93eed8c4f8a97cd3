import * as choices from './choices'
import { always, choice, lines, number, text, type Field } from './fieldKinds'
import type { Named } from './named'

/** The practical as a whole: what it is, its reactions, what a bench is shown, what a class usually finds. */
export function wholeFields({ results }: Named): Record<string, Field[]> {
  return {
    head: [
      always(text('title', 'title')),
      always(text('kind', 'kind of work', 'salt preparation')),
      always(text('finds', 'what it finds', 'percent yield of a hydrated salt')),
      always(text('level', 'for whom')),
      always(number('visits', 'lessons')),
      choice('atomic_masses', 'atomic masses', choices.MASS_TABLES, true),
      choice('arrangement', 'several reactions', choices.ARRANGEMENTS),
      { key: 'disposal', label: 'what goes where afterwards', takes: { kind: 'long' } },
      lines('typical_errors', 'typical errors, a line each'),
      lines('questions', 'questions for the report, a line each'),
    ],
    reactions: [
      always(text('equation', 'equation', 'with coefficients; “balance it” finds them')),
      text('name', 'what to call it'),
      { key: 'predicts', label: 'what would be seen', takes: { kind: 'map' }, hint: 'observation = choice' },
      number('equilibrium', 'equilibrium constant'),
      text('part', 'part that happens', '5 %'),
    ],
    school: [
      choice('fives', 'a five is rounded', choices.FIVES, true),
      choice('digits', 'digits of a result', choices.RESULT_DIGITS, true),
      choice('whole_numbers', 'zeros at the end, as in 100', choices.WHOLE_NUMBERS, true),
      choice('burettes', 'a burette is read to', choices.BURETTES, true),
      choice('uncertainty', 'how sure a result is', choices.SHOWN_UNCERTAINTY, true),
      choice('agreement', 'titres agree', choices.TITRES_AGREE, true),
      choice('dry', 'it is dry', choices.DRY, true),
      choice('tolerances', 'a tolerance lies', choices.TOLERANCES, true),
    ],
    disclosure: [
      choice('limiting', 'which reagent limits', choices.DISCLOSED, true),
      choice('yield', 'an impossible yield', choices.DISCLOSED, true),
      choice('concordance', 'whether titres agree', choices.DISCLOSED, true),
      choice('dryness', 'whether it is dry', choices.DISCLOSED, true),
      choice('needed', 'how much is still needed', choices.DISCLOSED, true),
      choice('purity', 'whether it is pure', choices.DISCLOSED, true),
      choice('identity', 'what an unknown is', choices.DISCLOSED, true),
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
    unknowns: [
      always(text('code', 'code on it')),
      always(text('is', 'what it is')),
      {
        key: 'expected',
        label: 'expected readings',
        takes: { kind: 'map' },
        hint: 'T_melt = 132.0 to 133.5',
      },
      { key: 'observed', label: 'what is seen of it', takes: { kind: 'map' }, hint: 'water = dissolves' },
    ],
    class: [
      always(choice('result', 'result', results)),
      always(number('mean', 'mean')),
      always(number('sd', 'standard deviation')),
      text('when', 'when'),
    ],
  }
}
