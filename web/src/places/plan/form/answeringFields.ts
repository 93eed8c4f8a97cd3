import * as choices from './choices'
import { always, choice, flag, number, text, type Field, used } from './fieldKinds'
import type { Named } from './named'

/** How answers are taken and marked, and what is asked for in words. */
export function answeringFields({ results }: Named): Record<string, Field[]> {
  return {
    reasons: [
      always(text('label', 'what is asked', 'Why is the yield below theory?')),
      always(number('marks', 'marks')),
      text('name', 'name'),
      { key: 'model', label: 'what a good answer says, for you', takes: { kind: 'long' } },
    ],
    feedback: [
      choice('answers_of', 'who answers', choices.ANSWERS_OF),
      choice('when', 'a group hears', choices.FEEDBACK_WHEN),
      number('attempts', 'tries, any number if empty'),
      {
        key: 'hints',
        label: 'hints of your own, by slip',
        takes: { kind: 'map' },
        hint: 'container-kept = look again at the dish',
      },
    ],
    marking: [
      number('recording', 'marks for recording'),
      number('agreement', 'marks for repeats that agree'),
      flag('truncated_counts', 'digits cut off count as right'),
      flag('last_earns_all', 'a right last number earns what was left out'),
      {
        key: 'closeness',
        label: 'marks for a result near the accepted value',
        takes: {
          kind: 'group',
          empty: true,
          of: [
            choice('result', 'result', results),
            number('marks', 'marks'),
            text('all_within', 'all of them within', '0.5 %'),
            text('none_beyond', 'none beyond', '3 %'),
          ],
        },
      },
    ],
    pooled: [
      always(text('label', 'in words', 'mass of iodine against mass of zinc')),
      always(used('x', 'along')),
      always(used('y', 'up')),
    ],
  }
}
