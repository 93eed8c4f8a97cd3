import type { Aim, ProposedBecause, ToAnswer } from '@/api'

/** What can be found, as a teacher would look for it. */
export const AIMS: readonly { of: string; aims: readonly (readonly [Aim, string])[] }[] = [
  {
    of: 'a concentration',
    aims: [
      ['titrant-by-mass', 'of a titrant, against a weighed standard'],
      ['titrant-by-solution', 'of a titrant, against a solution of known strength'],
      ['sample-by-titration', 'of an unknown solution, by titration'],
    ],
  },
  {
    of: 'a yield',
    aims: [
      ['yield-of-salt', 'of a salt that crystallises'],
      ['yield-of-precipitate', 'of a precipitate'],
      ['yield-of-organic-solid', 'of an organic solid, recrystallised'],
      ['yield-of-organic-liquid', 'of an organic liquid, distilled'],
      ['recovery', 'what comes back from recrystallising'],
    ],
  },
  {
    of: 'what something is made of',
    aims: [
      ['simplest-formula', 'the formula of a compound of two elements'],
      ['waters-of-crystallisation', 'waters of crystallisation'],
      ['back-titration', 'the part that reacts, by back titration'],
      ['part-by-precipitate', 'the part of an ion, weighed as a precipitate'],
      ['part-by-residue', 'the part that does not dissolve'],
    ],
  },
  {
    of: 'a solution',
    aims: [
      ['solution', 'a standard solution from a weighed solid'],
      ['dilution-series', 'the same, and a dilution series'],
    ],
  },
  {
    of: 'which of two',
    aims: [
      ['which-limits', 'the reagent that runs out, in two recipes'],
      ['which-reaction', 'the reaction that happens'],
    ],
  },
]

/** An aim with its group: “a yield of a precipitate”. */
export function aimName(aim: Aim): { of: string; name: string } {
  for (const group of AIMS) {
    const found = group.aims.find(([a]) => a === aim)
    if (found) return { of: group.of, name: found[1] }
  }
  return { of: '', name: aim }
}

/** What stands beside each field. */
export const ASKED: Record<ToAnswer, string> = {
  equation: 'equation',
  'other-equation': 'the other equation',
  title: 'title',
  standard: 'standard',
  sample: 'what is to be found',
  titrant: 'in the burette',
  product: 'product',
  limiting: 'limiting reagent',
  analyte: 'what is to be found',
  element: 'element weighed on its own',
  hydrate: 'salt, with its water',
  substance: 'substance',
  other: 'what does not dissolve',
  'standard-from': 'taken as',
  'titrant-from': 'taken as',
  'sample-from': 'taken as',
  'limiting-from': 'taken as',
  'other-from': 'taken as',
  'product-from': 'taken as',
  'third-from': 'taken as',
  'standard-strength': 'known strength',
  'titrant-strength': 'concentration of the titrant',
  'sample-strength': 'expected strength',
  'limiting-as': 'comes as',
  'other-as': 'comes as',
  'third-as': 'comes as',
  catalyst: 'catalyst',
  strength: 'strength',
  titre: 'titre to aim for',
  mass: 'mass to weigh out',
  'product-mass': 'theoretical yield',
  excess: 'excess of the other one',
  part: 'expected part',
  solvent: 'solvent',
  aliquot: 'pipette for the aliquot',
  dilution: 'diluted first',
  burette: 'burette',
  balance: 'balance',
  flask: 'flask',
  'small-flask': 'small flasks',
  volumes: 'volumes of stock, mL',
  indicator: 'indicator',
  'end-colour': 'colour at the end',
  seen: 'seen with the first equation',
  'seen-otherwise': 'seen with the other one',
  blank: 'titrate a blank',
  'as-mass': 'ask for grams in a litre as well',
  'ask-which-limits': 'ask which reagent runs out',
  melting: 'melting point',
  agreement: 'titres agree within',
  trials: 'how many have to agree',
  drying: 'dried at',
  marks: 'with marks',
}

/** Why something is proposed. */
export function whyWords(why: ProposedBecause): string {
  switch (why.kind) {
    case 'usual':
      return 'usual'
    case 'in-our-room':
      return 'in our room'
    case 'not-in-our-room':
      return 'not in our room: a standard one'
    case 'half-the-burette':
      return `half of the ${why.burette} that the burette holds`
    case 'takes-a-titre':
      return `takes about ${why.titre}`
    case 'undiluted-takes':
      return `undiluted it would take ${why.titre}`
    case 'could-make':
      return `${why.amount} of it, for ${why.product} of product`
    case 'fills-the-flask':
      return `for ${why.volume} of that strength`
    case 'leaves':
      return `leaves about ${why.mass} to weigh`
    case 'shows-the-end':
      return 'shows the end of this reaction'
    case 'in-the-equation':
      return 'in the equation'
    case 'in-the-library':
      return 'from the library of substances'
  }
}
