import type {
  BuretteReading,
  Dry,
  ResultDigits,
  ShownUncertainty,
  Ties,
  TitresAgree,
  Tolerances,
  WholeNumbers,
  AnswerKind,
  AnswersOf,
  Arrangement,
  DigitsPolicy,
  Disclosed,
  FeedbackWhen,
  Heat,
  Indicator,
  InstrumentKind,
  Judgement,
  MassTable,
  ObservationKind,
  ReadingKind,
  Role,
  SheetRole,
  Titrated,
} from '@/api'

/** Every value of a kind, in the order in which it is offered; does not compile while one is missing or misspelt. */
const every =
  <T extends string>() =>
  <const L extends readonly T[]>(list: L & ([T] extends [L[number]] ? unknown : never)): L =>
    list

export const ROLES = every<Role>()([
  'limiting',
  'excess',
  'product',
  'catalyst',
  'solvent',
  'quench',
  'wash',
  'indicator',
  'seed',
  'test',
  'titrant',
  'standard',
  'sample',
])

export const SHEET_ROLES = every<SheetRole>()([
  'amount',
  'mass',
  'concentration',
  'concentration-each',
  'mass-concentration',
  'mean-titre',
  'excess-left',
  'reacted',
  'extent',
  'actual-yield',
  'theoretical-yield',
  'percent-yield',
  'recovery',
  'mass-fraction',
  'mass-fraction-each',
  'parts-found',
  'amount-ratio',
  'waters',
  'percent-error',
  'line-slope',
  'read-off',
  'mixed-temperature',
  'temperature-change',
  'dry-pressure',
  'enthalpy',
])

export const INSTRUMENT_KINDS = every<InstrumentKind>()([
  'balance',
  'burette',
  'volumetric-pipette',
  'volumetric-flask',
  'measuring-cylinder',
  'graduated-pipette',
  'syringe',
  'dropping-pipette',
  'thermometer',
  'ph-meter',
  'ph-paper',
  'timer',
  'melting-point',
  'meter',
])

export const DISCLOSED = every<Disclosed>()(['before', 'after-answer', 'instructor'])
/** Tables with a name; a table of one's own is written in the text. */
export const MASS_TABLES = every<Extract<MassTable, string>>()(['abridged', 'school'])
export const ARRANGEMENTS = every<Arrangement>()(['sequence', 'competing', 'parallel'])
export const READING_KINDS = every<ReadingKind>()(['number', 'interval', 'count', 'span'])
export const OBSERVATION_KINDS = every<ObservationKind>()(['choice', 'spot-test', 'code', 'note'])
export const HEATS = every<Heat>()(['flame', 'water-bath', 'hot-plate', 'mantle', 'oven'])
/** What is answered in words has a section of its own. */
export const ANSWER_KINDS = every<Exclude<AnswerKind, 'words'>>()(['number', 'formula', 'limiting'])
/** A number of digits is written in the text. */
export const DIGITS = every<Extract<DigitsPolicy, string>>()([
  'as-fewest',
  'as-fewest-within-one',
  'at-least-two',
  'to-uncertainty',
])
export const FIVES = every<Ties>()(['half-up', 'half-even'])
export const RESULT_DIGITS = every<ResultDigits>()(['figures', 'uncertainty'])
export const WHOLE_NUMBERS = every<WholeNumbers>()(['ambiguous', 'place-holders', 'counted'])
export const BURETTES = every<BuretteReading>()(['tenth', 'half'])
export const SHOWN_UNCERTAINTY = every<ShownUncertainty>()(['none', 'apparatus', 'expanded'])
export const DRY = every<Dry>()(['constant-mass', 'fixed-time'])
export const TOLERANCES = every<Tolerances>()(['rectangular', 'triangular'])
/** A limit of one's own is written in the text. */
export const TITRES_AGREE = every<Extract<TitresAgree, string>>()(['instruments', 'outlier-test'])
export const ANSWERS_OF = every<AnswersOf>()(['group', 'student'])
export const FEEDBACK_WHEN = every<FeedbackWhen>()(['on-release', 'at-once'])

/** What something seen can be evidence of; the other judgements rest on readings. */
export const EVIDENCE_OF = [
  'limiting',
  'purity',
  'dryness',
  'identity',
] as const satisfies readonly Judgement[]

/** What can be in the flask of a titration. */
export const CURVES = every<Titrated>()(['acid', 'base'])

export const INDICATORS = every<Indicator>()([
  'phenolphthalein',
  'methyl-orange',
  'methyl-red',
  'bromothymol-blue',
])
