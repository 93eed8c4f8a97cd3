import type { BenchSlip, Slip, SlipPlace } from '@/api'

interface SlipWords {
  /** In two or three words, for a label. */
  name: string
  /** What the student did, for the instructor; `at` is what it happened to. */
  did: (at: string) => string
  /** What to look at again, for the group; it gives nothing away. */
  hint: (at: string) => string
}

/** Every slip of the catalogue in words; it does not compile while one is missing. */
const slips: Record<Slip, SlipWords> = {
  'container-kept': {
    name: 'forgot to subtract the container',
    did: (at) => `${at}: the gross mass was used, the container not subtracted`,
    hint: (at) => `check ${at}: what else was on the balance?`,
  },
  'wrong-container': {
    name: 'subtracted the wrong container',
    did: (at) => `${at}: another object was subtracted, or only one of several`,
    hint: (at) => `check ${at}: which objects have to be taken off?`,
  },
  'difference-reversed': {
    name: 'subtracted the wrong way',
    did: (at) => `${at}: the larger was taken from the smaller`,
    hint: (at) => `check the order of the difference in ${at}`,
  },
  'first-reading-kept': {
    name: 'used one reading, not the difference',
    did: (at) => `${at}: the final reading was used as the difference`,
    hint: (at) => `check ${at}: is it a reading, or what was used up between two?`,
  },
  'rough-included': {
    name: 'rough trial in the mean',
    did: (at) => `${at}: the rough trial is in the mean`,
    hint: () => 'check which trials belong in the mean',
  },
  'discordant-included': {
    name: 'discordant titres in the mean',
    did: (at) => `${at}: titres that do not agree were averaged`,
    hint: () => 'check which titres agree',
  },
  'single-trial': {
    name: 'used one trial, not the mean',
    did: (at) => `${at}: one trial was used instead of the mean`,
    hint: () => 'check: one trial, or the mean of those that count?',
  },
  'wrong-trial': {
    name: 'used another trial’s value',
    did: (at) => `a value of another trial was used: ${at}`,
    hint: () => 'check: do all numbers come from the same trial?',
  },
  'decimal-point': {
    name: 'moved the decimal point',
    did: (at) => `${at}: the decimal point is moved`,
    hint: (at) => `check the decimal point in ${at}`,
  },
  'digits-swapped': {
    name: 'swapped two digits',
    did: (at) => `${at}: two neighbouring digits are swapped`,
    hint: (at) => `check the digits of ${at}`,
  },
  'unit-thousand': {
    name: 'factor of 1000 (milli)',
    did: (at) => `${at}: millilitres taken as litres, or milligrams as grams`,
    hint: (at) => `check the units of ${at}: is there a milli too many or too few?`,
  },
  'ratio-ignored': {
    name: 'ratio taken as 1 : 1',
    did: (at) => `${at}: the stoichiometric ratio was taken as 1 : 1`,
    hint: () => 'check the coefficients of the equation',
  },
  'ratio-inverted': {
    name: 'inverted the ratio',
    did: (at) => `${at}: the stoichiometric ratio is upside down`,
    hint: () => 'check which way the coefficients go',
  },
  'division-inverted': {
    name: 'division the wrong way round',
    did: (at) => `${at}: divided the wrong way up`,
    hint: (at) => `check ${at}: what is divided by what?`,
  },
  'multiplied-for-divided': {
    name: 'multiplied instead of dividing',
    did: (at) => `${at}: multiplied where a division belongs, or the reverse`,
    hint: (at) => `check ${at}: multiply or divide?`,
  },
  'wrong-limiting': {
    name: 'chose the reagent in excess',
    did: (at) => `the product was computed from ${at}, which is in excess`,
    hint: () => 'check which reagent is used up first',
  },
  'smaller-mass-limits': {
    name: 'took the smaller mass as limiting',
    did: (at) => `${at} was taken as limiting because its mass is smaller`,
    hint: () => 'check: masses do not say which reagent is used up first',
  },
  'mass-ratio-yield': {
    name: 'took mass out over mass in',
    did: (at) => `mass of product over the mass of ${at}; molar masses are left out`,
    hint: () => 'check: a percent yield compares with what could have been made',
  },
  'yield-inverted': {
    name: 'inverted the yield',
    did: () => 'theoretical over actual yield',
    hint: () => 'check what is divided by what in the yield',
  },
  'hydrate-ignored': {
    name: 'left out the water',
    did: (at) => `${at}: the molar mass of the anhydrous substance was used`,
    hint: (at) => `check what ${at} holds besides the salt`,
  },
  'hydrate-assumed': {
    name: 'added water',
    did: (at) => `${at}: the molar mass of a hydrate was used`,
    hint: (at) => `check whether ${at} holds water`,
  },
  'other-substance': {
    name: 'used another molar mass',
    did: (at) => `${at}: the molar mass of another substance was used`,
    hint: (at) => `check whose molar mass you used for ${at}`,
  },
  'bracket-ignored': {
    name: 'ignored a bracket',
    did: (at) => `${at}: the subscript after the bracket was not applied to all of it`,
    hint: (at) => `check the brackets in the formula of ${at}`,
  },
  'atom-for-molecule': {
    name: 'used atoms, not molecules',
    did: (at) => `${at}: a diatomic element was taken as one atom, or the reverse`,
    hint: (at) => `check: atoms or molecules of ${at}?`,
  },
  'purity-ignored': {
    name: 'left the purity out',
    did: (at) => `${at}: purity or mass fraction was left out`,
    hint: (at) => `check how pure ${at} is`,
  },
  'density-ignored': {
    name: 'took mL as g',
    did: (at) => `${at}: the volume was used as its mass`,
    hint: (at) => `check: is it a volume or a mass of ${at}?`,
  },
  'dilution-ignored': {
    name: 'left the dilution out',
    did: (at) => `${at}: the aliquot or dilution factor was left out`,
    hint: () => 'check what was diluted, and how far',
  },
  'dilution-inverted': {
    name: 'inverted the dilution',
    did: (at) => `${at}: the aliquot or dilution factor is upside down`,
    hint: () => 'check: is it stronger or weaker before the dilution?',
  },
  'blank-ignored': {
    name: 'blank not subtracted',
    did: () => 'the blank was not subtracted',
    hint: () => 'check the blank',
  },
  'back-titration-total': {
    name: 'used what was left, not reacted',
    did: (at) => `${at} was reported as the amount that reacted`,
    hint: () => 'check: how much was added, how much was left, how much reacted?',
  },
  'percent-for-fraction': {
    name: 'gave a fraction as a percentage',
    did: () => 'a fraction was given as percent, or the reverse',
    hint: () => 'check: is it in percent?',
  },
  'rounded-early': {
    name: 'rounded too early',
    did: (at) => `${at} was rounded to one or two figures on the way`,
    hint: (at) => `check how far ${at} was rounded before going on`,
  },
  'forced-whole': {
    name: 'forced a whole number',
    did: () => 'a ratio that is not whole was rounded to a whole number',
    hint: () => 'check: is the ratio as near a whole number as the masses allow?',
  },
  'ratio-not-reduced': {
    name: 'not reduced',
    did: () => 'the subscripts were not divided by their common factor',
    hint: () => 'check: are these the smallest whole numbers?',
  },
  'mass-ratio-formula': {
    name: 'used grams instead of moles',
    did: () => 'masses were compared as if they were amounts',
    hint: () => 'check: a formula counts atoms, not grams',
  },
  'digits-too-many': {
    name: 'too many digits',
    did: () => 'more figures than the readings allow',
    hint: () => 'check how many figures the readings allow',
  },
  'digits-too-few': {
    name: 'too few digits',
    did: () => 'fewer figures than the readings allow',
    hint: () => 'check how many figures the readings allow',
  },
  'unit-wrong': {
    name: 'unit wrong or missing',
    did: () => 'the number is right, the unit is not',
    hint: () => 'check the unit',
  },
  'minus-sign': {
    name: 'lost the sign',
    did: () => 'the sign was lost or added',
    hint: () => 'check the sign',
  },
  'target-for-actual': {
    name: 'used the planned mass',
    did: (at) => `${at}: the amount of the instructions was used`,
    hint: (at) => `check ${at}: planned, or really taken?`,
  },
  'label-for-standardised': {
    name: 'used the label concentration',
    did: (at) => `${at}: the concentration on the label was used`,
    hint: (at) => `check the concentration of ${at}: on the label, or measured?`,
  },
  'smaller-amount-limits': {
    name: 'took the smaller amount as limiting',
    did: (at) => `${at} was taken as limiting without the coefficients`,
    hint: () => 'check: the coefficients count for what is used up first',
  },
  'volumes-swapped': {
    name: 'swapped two volumes',
    did: () => 'the two volumes of the titration are swapped',
    hint: () => 'check which volume belongs to which solution',
  },
  'coefficient-in-molar-mass': {
    name: 'coefficient put into the molar mass',
    did: (at) => `${at}: the molar mass was multiplied by the coefficient as well`,
    hint: (at) => `check the molar mass of ${at}: of how many formula units?`,
  },
  'wrong-mass': {
    name: 'used another mass',
    did: (at) => `another of the recorded masses was used: ${at}`,
    hint: () => 'check which of the masses belongs here',
  },
  'mass-for-amount': {
    name: 'used grams instead of moles',
    did: (at) => `${at}: grams were used where moles belong`,
    hint: (at) => `check ${at}: grams or moles?`,
  },
  'hydrate-misread': {
    name: 'misread the hydrate',
    did: (at) => `${at}: the waters were counted in another way`,
    hint: (at) => `check the number of waters in ${at}`,
  },
  truncated: {
    name: 'cut digits off',
    did: () => 'digits were cut off instead of rounded',
    hint: () => 'check the rounding',
  },
  'reactants-summed': {
    name: 'added the reactants’ masses',
    did: () => "the theoretical yield is the sum of the reactants' masses",
    hint: () => 'check: how much product can be made?',
  },
  'percent-error-wrong-base': {
    name: 'took the percentage of another value',
    did: () => 'divided by something else than the accepted value',
    hint: () => 'check what the percentage is of',
  },
  'total-volume': {
    name: 'used the whole flask, not the aliquot',
    did: (at) => `${at}: the volume of another vessel was used`,
    hint: () => 'check: how much of the solution was titrated?',
  },
  'kelvin-ignored': {
    name: 'used °C, not K',
    did: (at) => `${at}: °C were used where kelvins belong`,
    hint: () => 'check the temperature scale',
  },
  'atomic-number-for-mass': {
    name: 'used atomic numbers',
    did: () => 'atomic numbers were used as masses',
    hint: () => 'check which number of the periodic table is the mass',
  },
  'mean-of-final-readings': {
    name: 'averaged readings, not titres',
    did: () => 'final burette readings were averaged instead of titres',
    hint: () => 'check: what is averaged, readings or titres?',
  },
  'antilog-missing': {
    name: 'forgot the power of ten',
    did: () => 'the power of ten was not taken',
    hint: () => 'check the last step after the logarithm',
  },
  'portion-forgotten': {
    name: 'left a portion out',
    did: (at) => `one portion is missing from the sum: ${at}`,
    hint: () => 'check: is every portion in the sum?',
  },
  'container-in-both': {
    name: 'container in every mass',
    did: (at) => `${at} was never subtracted`,
    hint: () => 'check: did you use the mass of the sample alone?',
  },
  complement: {
    name: 'gave the other part',
    did: (at) => `${at}: gave the other part of the whole`,
    hint: (at) => `check ${at}: what was lost, or what is left?`,
  },
  'left-for-reacted': {
    name: 'left over, or used up?',
    did: (at) => `${at}: used what was left over, or all that was taken, instead of what reacted`,
    hint: (at) => `check ${at}: how much was there, how much was left, how much reacted?`,
  },
  'other-reaction': {
    name: 'ratio from another equation',
    did: (at) => `${at}: used the ratio from another equation of this practical`,
    hint: (at) => `check ${at}: which equation does the ratio come from?`,
  },
  capped: {
    name: 'written as 100 %',
    did: (at) => `${at}: it came to more than 100 %, and they wrote 100 %`,
    hint: (at) => `check ${at}: write what your numbers give, even if it looks odd`,
  },
  'basis-swapped': {
    name: 'w/w and w/v mixed up',
    did: (at) => `${at}: read a percentage by mass as w/v, or the other way round`,
    hint: (at) => `check the label of ${at}: per cent of what?`,
  },
  'concentrations-swapped': {
    name: 'concentrations swapped',
    did: (at) => `the two concentrations were swapped: ${at}`,
    hint: () => 'check: which concentration belongs to which solution?',
  },
  'density-inverted': {
    name: 'inverted the density',
    did: (at) => `${at}: divided by the density instead of multiplying, or the other way round`,
    hint: (at) => `check ${at}: how do you get from its volume to its mass?`,
  },
  'quotient-for-product': {
    name: 'divided instead of multiplying',
    did: (at) => `${at}: divided instead of multiplying, or the other way round`,
    hint: (at) => `check ${at}: do the units work out?`,
  },
  'part-for-whole-substance': {
    name: 'part and whole mixed up',
    did: (at) => `used a part of the substance instead of the whole, or the other way round: ${at}`,
    hint: (at) => `check ${at}: the whole substance, or a part of it?`,
  },
  'axes-swapped': {
    name: 'plotted x against y',
    did: (at) => `${at} was taken the wrong way round: x against y`,
    hint: (at) => `check ${at}: which goes up the page, and which along?`,
  },
  'intercept-ignored': {
    name: 'left out the intercept',
    did: (at) => `${at}: the intercept of the line was not taken off`,
    hint: (at) => `check ${at}: where does the line meet zero?`,
  },
  'cooling-ignored': {
    name: 'did not correct for cooling',
    did: (at) => `used the highest reading for the ${at}`,
    hint: (at) => `check the ${at}: what does the line say at the moment you mixed?`,
  },
  'kelvin-added': {
    name: 'added 273 to a difference',
    did: (at) => `added 273 to the ${at}`,
    hint: (at) => `check the ${at}: does a difference change when you count in kelvins?`,
  },
  'vapour-pressure-ignored': {
    name: 'forgot the water vapour',
    did: (at) => `${at}: the vapour pressure of the water was not taken off`,
    hint: (at) => `check ${at}: what else is in a gas over water?`,
  },
  'electrons-ignored': {
    name: 'left out the electrons',
    did: (at) => `${at}: the electrons for each ion were left out`,
    hint: (at) => `check ${at}: how many electrons does one ion take?`,
  },
  'minutes-for-seconds': {
    name: 'mixed up minutes and seconds',
    did: (at) => `${at}: minutes were taken for seconds, or the other way round`,
    hint: (at) => `check ${at}: minutes or seconds?`,
  },
  'drops-uncounted': {
    name: 'left the drops out',
    did: (at) => `${at}: the drops were not added in`,
    hint: (at) => `check ${at}: is everything in it that you added?`,
  },
}

export const slipName = (slip: Slip) => slips[slip].name

/** What a slip happened to, without what was used instead: that would give half the answer away. */
export const placeName = (at: SlipPlace) => at.what.map((part) => part.label).join(' : ')

/** What a slip happened to, for the instructor. */
export const placeWords = (at: SlipPlace) =>
  at.instead == null ? placeName(at) : `used ${at.instead.label} where ${placeName(at)} belongs`

/** What the student did, for the instructor. */
export const slipDid = (slip: Slip, at: SlipPlace) => slips[slip].did(placeWords(at))

/** What to look at again, for the group; `at` is what it happened to, in words. */
export const slipHint = (slip: Slip, at: string) => slips[slip].hint(at)

const benchSlips: Record<BenchSlip, string> = {
  'damp-product': 'product still damp',
  'unwashed-product': 'product not washed',
  'solvent-left': 'solvent left in it',
  'paper-moisture': 'paper took up moisture',
  'transfer-loss': 'lost in transfer',
  'washed-away': 'dissolved by washing',
  'fines-through': 'fine crystals through the filter',
  'incomplete-reaction': 'reaction not complete',
  overheated: 'overheated',
  effloresced: 'lost water in the air',
  'paper-torn': 'paper torn',
  'limiting-reagent-spilled': 'some of the limiting reagent spilled',
  'excess-reagent-spilled': 'some of the excess spilled',
  spattered: 'spattered',
  'hot-weighing': 'weighed hot',
  'moisture-regained': 'took up moisture again',
  soot: 'soot on the crucible',
  'air-in-tip': 'bubble left the tip',
  'overshot-endpoint': 'end point overshot',
  'burette-not-rinsed': 'burette not rinsed with titrant',
  'flask-rinsed-with-sample': 'flask rinsed with sample',
  'carbon-dioxide-uptake': 'carbon dioxide taken up',
  'heat-lost': 'heat lost before it was read',
  'stirred-too-little': 'stirred too little',
  'cuvette-dirty': 'cuvette wet or turned round',
  'gas-lost': 'gas lost',
  'gas-still-warm': 'gas read while still warm',
  'deposit-lost': 'deposit washed off',
  'clock-late': 'clock started or stopped late',
  'pipette-blown-out': 'pipette blown out',
  'funnel-left-in': 'funnel left in the burette',
  'pipette-not-rinsed': 'pipette not rinsed',
  'solid-left-in-boat': 'solid left in the boat',
  'damp-standard': 'standard damp',
  'side-product': 'something else formed',
  'boiled-dry': 'boiled dry',
  sublimed: 'some sublimed',
  'layer-discarded': 'the wrong layer discarded',
  'paper-not-tared': 'paper weighed with it',
  'different-balance': 'weighed on another balance',
  'lid-mismatch': 'another lid',
  'crucible-damp': 'empty crucible damp',
  'past-the-mark': 'flask filled past the mark',
  'eye-above': 'read from above',
  'eye-below': 'read from below',
  'wrong-indicator': 'wrong indicator',
  'flask-not-mixed': 'flask not mixed',
  'bulb-misplaced': 'thermometer bulb in the wrong place',
  'heated-too-fast': 'heated too fast',
}

export const benchSlipName = (slip: BenchSlip) => benchSlips[slip]
