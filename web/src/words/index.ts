/** The wording of every judgement, in one place for each. */
export { AIMS, aimName, ASKED, whyWords } from './begin'
export { benchMarkName, benchMarkWords } from './benchMarks'
export { consequenceWords } from './consequences'
export { adviceWords } from './advice'
export { deviationWords } from './departures'
export { clashWords, couldWords, offWords, returnWords, slotWords } from './calendar'
export {
  busyWords,
  fitWords,
  noPlanWords,
  classifiedWords,
  provedWords,
  remarkWords,
  remedyWords,
  signalWord,
  thenWords,
} from './preparing'
export { runWaitWords, waitingWords } from './waits'
export { entryWords } from './entries'
export { findingWords, flagWords, yieldWords } from './findings'
export {
  answerState,
  answerWords,
  standsState,
  standsWords,
  digitsState,
  digitsWords,
  unitState,
  unitWords,
  valueState,
  valueWords,
} from './verdicts'
export { benchSlipName, placeName, placeWords, slipDid, slipHint, slipName } from './slips'
export { doubtWords, neededWords } from './doubts'
export {
  agreementKind,
  agreementLimit,
  agreementRules,
  massesWords,
  schoolChoices,
  schoolQuestions,
  schoolWords,
  type AgreementKind,
  type SchoolQuestion,
} from './school'
export { CHECKED_FOR, uncheckedWords } from './unchecked'
