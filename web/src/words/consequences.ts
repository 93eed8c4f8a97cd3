import type { Combination, Consequence, Unrecorded } from '@/api'
import type { Wording } from './wording'
import { say } from './wording'

const list = (words: readonly string[]) =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1) ?? ''}`

const heads: { [K in Consequence['kind']]: string } = {
  'titre-foreseen': 'Titre:',
  'limit-missed': 'Agreement:',
  'class-otherwise': 'The class:',
  'stronger-than-saturated': 'Too strong:',
  'in-excess': 'Excess:',
  'not-the-one-meant': 'Another one limits:',
  'enough-up-to': 'Enough up to:',
  flip: 'Limiting reagent may change:',
  'worst-case': 'Worst case:',
  'basis-open': 'Per cent of what?',
  hydrates: 'As hydrates:',
  dissolves: 'Dissolves:',
  ceiling: 'Highest possible yield:',
  'too-full': 'Too full:',
  'cannot-boil': 'Never boils:',
  'too-hot': 'Too hot:',
  'said-two-ways': 'Two figures disagree:',
  'never-recorded': 'Not recorded:',
  together: 'Together:',
  hypothesis: 'If it is this one:',
  'catalyst-counts': 'Catalyst:',
  'not-in-reaction': 'In no reaction:',
  precision: 'Precision:',
  critical: 'Critical:',
  'rough-will-do': 'Rough is fine:',
  coarse: 'Coarse:',
  'smallest-scale': 'Smallest scale:',
  time: 'Time:',
}

const dangers: { [K in Combination]: string } = {
  'acid-on-sulfite': 'gives off sulfur dioxide',
  'acid-on-carbonate': 'foams over with carbon dioxide unless it is added in portions',
  'water-onto-acid': 'boils where it touches and throws acid; pour the acid into the water',
  'base-and-aluminium': 'gives off hydrogen and heat',
  'oxidiser-and-organic': 'may catch fire',
  'flammable-near-flame': 'its vapour runs along the bench to the flame',
  'closed-and-heated': 'bursts',
  'ice-on-hot-glass': 'cracks it; let it cool in air first',
  'iodine-and-ammonia': 'makes a solid that explodes at a touch',
  'hypochlorite-and-acid': 'gives off chlorine',
  'hypochlorite-and-ammonia': 'gives off chloramines',
  'permanganate-and-hydrochloric': 'gives off chlorine',
  'metal-acid-flame': 'gives off hydrogen near a flame',
  'metal-and-acid': 'gives off hydrogen: no flame near it, and a fume cupboard or an open window',
  'acid-on-cyanide': 'gives off hydrogen cyanide, which kills: never in a classroom',
  'acid-on-sulfide': 'gives off hydrogen sulfide, which is poisonous: fume cupboard only',
  'acid-on-nitrite': 'gives off brown nitrogen oxides, which are poisonous',
  'acid-on-chlorate': 'makes chlorine dioxide, which explodes',
  'base-on-ammonium': 'gives off ammonia',
  'water-reactive': 'reacts violently with water',
  'concentrated-acid-and-base': 'boils and spits: dilute both first',
  'oxidiser-and-metal': 'may catch fire or explode',
  'oxidiser-and-concentrated-acid': 'makes something that explodes, or gives off chlorine',
  'dichromate-and-hydrochloric': 'gives off chlorine when it is warmed',
  'nitric-acid-and-metal': 'gives off brown nitrogen oxides, which are poisonous',
  'silver-and-ammonia': 'leaves a solid that explodes when it dries: acidify and discard it at once',
  'hypochlorite-and-propanone': 'makes chloroform, with heat',
  'peroxide-and-propanone': 'makes a peroxide that explodes at a touch',
  'hypochlorite-and-peroxide': 'gives off oxygen, violently',
}

const unrecorded: { [K in Unrecorded]: (of: string) => string } = {
  amount: (of) => `how much ${of} was really used; the calculation would take what was planned.`,
  strength: (of) => `the concentration of ${of} has no uncertainty: add ±, a range, or standardise it.`,
  'solvent-volume': (of) => `how much solvent was used in “${of}”, which decides how much crystallises.`,
  added: (of) => `how much ${of} it took up to the stop.`,
  container: (of) => `the empty vessel: the mass of ${of} would be that of both.`,
  'drying-temperature': (of) => `at which temperature the ${of} is dried.`,
}

const bodies: Wording<Consequence> = {
  'titre-foreseen': (c) =>
    [
      `about ${c.volume} with these amounts`,
      c.fits ? '' : `; aim for between a fifth and nine tenths of the ${c.burette} burette`,
      c.expected == null ? '.' : `; the readings expect ${c.expected}.`,
    ].join(''),
  'limit-missed': (c) =>
    `even careful work scatters by ${c.scatter} here: ${c.of_ten} of 10 careful groups would miss ${c.limit}. Use more in each trial, or allow more.`,
  'class-otherwise': (c) => `classes found ${c.class}, and this plan comes to ${c.planned}.`,
  'stronger-than-saturated': (c) =>
    `${c.written} of ${c.material} is more than water takes up: at 20 °C, ${c.most} at most.`,
  'in-excess': (c) =>
    Number(c.percent) < 0
      ? `${c.enough} of ${c.material} would be just enough: it falls short by ${-Number(c.percent)} %.`
      : `${c.enough} of ${c.material} would be just enough; as planned ${c.percent} % over, from ${c.low} to ${c.high} % over its band.${
          c.near_edge ? ' That is near the edge: somebody may weigh too little.' : ''
        }`,
  'not-the-one-meant': (c) => `${c.limits} limits with these amounts, and it is not the one that should.`,
  'enough-up-to': (c) =>
    c.enough
      ? `${c.volume} of ${c.material} suffices for up to ${c.upto} of ${c.of}; the band ends at ${c.band}.`
      : `${c.volume} of ${c.material} suffices only up to ${c.upto} of ${c.of}, and the band goes to ${c.band}.`,
  flip: (c) =>
    c.inside
      ? `at ${c.at} another reagent limits, and the ${c.what} of ${c.material} is only known as ${c.range}.`
      : `another reagent limits only at ${c.at}; the ${c.what} of ${c.material}, ${c.range}, stays clear of it.`,
  'worst-case': (c) =>
    `if the whole of the ${c.sample} were ${c.component}, the ${c.reagent} would be ${c.percent} % of what is needed${c.enough ? '' : ': not enough'}.`,
  'basis-open': (c) =>
    `${c.material}, ${c.written}: ${c.in_volume} as w/v${
      c.in_mass != null ? `, ${c.in_mass} as w/w` : '; w/w needs a density'
    }. Until you say which, w/v is assumed.`,
  hydrates: (c) =>
    `the same amount of ${c.material} is ${list(c.forms.map((f) => `${f.mass} of ${f.formula}${f.flips ? ' (its planned mass would make another reagent limit)' : ''}`))}.`,
  dissolves: (c) =>
    c.fits
      ? `${c.amount} of ${c.material} dissolves in ${c.water} at ${c.at}; ${c.smallest} would do.`
      : `${c.amount} of ${c.material} does not dissolve in ${c.water} at ${c.at}; it takes ${c.smallest}.`,
  ceiling: (c) => {
    const why = {
      liquor: 'the rest stays in the liquor and the washings',
      'solubility-product': 'the rest stays dissolved',
      equilibrium: 'the reaction does not run to the end',
    }[c.why]
    return `even with no losses the most you can get is ${c.percent} %, ${c.mass} of ${c.product}, ${c.when}; ${why}.`
  },
  'too-full': (c) =>
    c.only_for_heat
      ? `${c.volume} in the ${c.vessel} of ${c.capacity}: more than two thirds, and it is heated or foams.`
      : `${c.volume} in the ${c.vessel}, which holds ${c.capacity}.`,
  'cannot-boil': (c) => `${c.material} boils at ${c.boils}; the bath reaches ${c.reaches}.`,
  'too-hot': (c) => `${c.material} may be dried at ${c.bears} at most, and is dried at ${c.planned}.`,
  'said-two-ways': (c) => `${c.about}: ${c.one} in ${c.here}, ${c.other} in ${c.there}.`,
  'never-recorded': (c) => unrecorded[c.what](c.of),
  together: (c) => `${c.one} with ${c.other} ${dangers[c.danger]}.`,
  hypothesis: (c) =>
    `at most ${c.theory} of ${c.product}, ${c.limits} limits${c.seen.length === 0 ? '' : `; to be seen: ${list(c.seen)}`}.`,
  'catalyst-counts': (c) => `${c.material} is called a catalyst, and the equation uses it up.`,
  'not-in-reaction': (c) => `${c.material} is marked as a reactant but is in no equation.`,
  precision: (c) => `with these instruments the ${c.result} is known to ± ${c.percent} % (k = 2).`,
  critical: (c) =>
    c.readings.length === 0
      ? `no single reading makes most of the uncertainty of ${c.result}.`
      : `most of the uncertainty of ${c.result} comes from ${list(c.readings.map((r) => `${r.label} (${r.percent} %)`))}.`,
  'rough-will-do': (c) => `${list(c.readings)}: any amount within the band gives the same result.`,
  coarse: (c) => `the step of ${c.instrument} alone is ${c.percent} % of the ${c.reading}.`,
  'smallest-scale': (c) =>
    c.reached
      ? `${c.result} stays within U = ${c.wanted} % down to ${c.scale} % of these amounts (${c.example}).`
      : `for U = ${c.wanted} % of ${c.result} it takes ${c.scale} % of these amounts (${c.example}).`,
  time: (c) =>
    `${c.minutes[0] ?? 0} to ${c.minutes[1] ?? 0} min at the bench in ${c.visits} ${c.visits === 1 ? 'lesson' : 'lessons'}${
      c.waits.length === 0 ? '; no waits' : `; waits: ${list(c.waits)}`
    }.`,
}

/** A consequence of the plan: a word, and the sentence. */
export function consequenceWords(c: Consequence): { head: string; body: string } {
  const head = c.kind === 'dissolves' && !c.fits ? 'Does not dissolve:' : heads[c.kind]
  return { head, body: say(bodies, c) }
}
