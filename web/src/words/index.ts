/** The wording of every judgement, in one place for each. */
export { consequenceWords } from './consequences'
export { donenessWords, findingWords, isSettled, yieldWords } from './findings'
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
