import type { Unchecked } from '@/api'
import { say, type Wording } from './wording'

/** What the plan looks at; nothing else is looked at. */
export const CHECKED_FOR =
  'Checked for: pairs of common substances that do not go together, a flame near what burns, closed vessels, ice on hot glass, acid into water, vessels too full, baths too cool to boil or too hot to dry, reagents that run short. Nothing else is checked.'

const unchecked: Wording<Unchecked> = {
  'no-formula': (u) => `how ${u.material} behaves with the others: it has no formula.`,
  'no-volume': (u) => `whether the ${u.vessel} holds it all: no volume is given for ${u.material}.`,
  'no-amount': (u) => `whether there is enough ${u.material}: no amount is planned.`,
  'no-solubility': (u) =>
    `whether ${u.material} dissolves, and how much of it crystallises: no solubility is given.`,
  'no-boiling-point': (u) => `whether ${u.material} boils: no boiling point is given.`,
  'no-limit': (u) => `whether ${u.material} is dried too hot: its limit is not given.`,
}

/** What was not looked at, and why. */
export const uncheckedWords = (u: Unchecked) => say(unchecked, u)
