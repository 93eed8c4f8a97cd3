import { describe, expect, it } from 'vitest'
import type { Filled } from '../standing'
import { asksWhy, correctionOf, mayReplace, stepsBefore, takenHere, type Replacing } from './correction'

const standing: Filled = {
  id: 'e1',
  text: '2.41',
  unit: 'g',
  at: 1_000_000,
  about: false,
  struck: [],
  steps: ['2.47'],
  flags: [],
  confirmed: false,
  by_instructor: false,
  held: false,
}
const replacing = (of: Partial<Replacing>): Replacing => ({
  standing,
  weighsAgain: false,
  time: standing.at + 60_000,
  reason: '',
  ...of,
})

describe('a value in the place of another', () => {
  it.each([
    ['the first value asks nothing', { standing: undefined }, false, true],
    ['one that follows at once is a slip of the finger', { time: standing.at + 59_999 }, false, true],
    ['a minute later it says why', {}, true, false],
    ['and blanks are no reason', { reason: '  ' }, true, false],
    ['with a reason it can be kept', { reason: 'misread' }, true, true],
    [
      'a weighing until constant may say why at once',
      { weighsAgain: true, time: standing.at + 1 },
      true,
      true,
    ],
  ] satisfies [string, Partial<Replacing>, boolean, boolean][])('%s', (_, of, asks, may) => {
    expect(asksWhy(replacing(of))).toBe(asks)
    expect(mayReplace(replacing(of))).toBe(may)
  })

  it('measured again, the value before stays beside it; misread, it goes', () => {
    const again = { weighsAgain: true, reason: 'measured again' }
    expect(stepsBefore(replacing(again), [])).toEqual(['2.47', '2.41'])
    expect(stepsBefore(replacing({ ...again, reason: 'misread' }), ['2.47'])).toEqual(['2.47'])
    // Where nothing is weighed until constant, the same words are a correction like any other.
    expect(stepsBefore(replacing({ reason: 'measured again' }), [])).toEqual([])
  })

  it('says what it corrects, and only what was said', () => {
    expect(correctionOf(replacing({ standing: undefined, reason: 'misread' }))).toBeUndefined()
    expect(correctionOf(replacing({}))).toEqual({ supersedes: 'e1' })
    expect(correctionOf(replacing({ reason: ' misread ' }))).toEqual({ supersedes: 'e1', reason: 'misread' })
    expect(takenHere(' 2.40 ', null, [], [])).toEqual({ text: '2.40' })
    expect(takenHere('2.40', 'Balance 2', ['2.47'], ['damp'])).toEqual({
      text: '2.40',
      on: 'Balance 2',
      steps: ['2.47'],
      flags: ['damp'],
    })
  })
})
