/** The wording of every judgement, in one place for each. */
export { consequenceWords } from './consequences'
export { adviceWords, isSpent } from './advice'
export { deviationWords } from './departures'
export { findingWords, flagWords, yieldWords } from './findings'
export {
  answerState,
  answerWords,
  digitsState,
  digitsWords,
  unitState,
  unitWords,
  valueState,
  valueWords,
} from './verdicts'
