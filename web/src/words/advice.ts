import type { Advice, Matter } from '@/api'
import { say, type Wording } from './wording'

const and = (parts: readonly (string | number)[]) =>
  parts.length < 2 ? parts.join('') : `${parts.slice(0, -1).join(', ')} and ${parts.at(-1) ?? ''}`

const upper = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

const matters: Wording<Matter> = {
  'titres-agree': (m) =>
    `Titres ${and(m.titres.filter((t) => t.agrees).map((t) => t.trial))} agree within ${m.range.text}: ${used(m.titres)} No more are needed.${drifting(m.drift)}`,
  'one-more': (m) =>
    m.left === 0
      ? `Not enough of them agree, and there is no room for another: show your instructor.${drifting(m.drift)}`
      : `${oneMore(m)}${drifting(m.drift)}`,
  'trials-agree': (m) =>
    `${m.trials} trials agree: their ${m.of} scatter by ${m.rsd.text}, and ${m.limit.text} is allowed. Done.`,
  'another-trial': (m) =>
    m.scattered && m.rsd != null
      ? scattered({ ...m, rsd: m.rsd })
      : m.rsd == null
        ? m.of === 'titres'
          ? `${m.trials} of ${m.wanted} accurate trials done.`
          : `${m.trials} of ${m.wanted} accurate trials done. The concentrations are compared, not the titres.`
        : `${m.trials} of ${m.wanted} accurate trials done; so far they scatter by ${m.rsd.text}.`,
  'trials-count': (m) =>
    m.set_aside == null
      ? `Enough: ${m.trials} accurate trials and no outlier.`
      : `Enough: trial ${m.set_aside} is an outlier and is left out; the other ${m.trials} count.`,
  'outlier-test-waits': (m) => outlierWaits(m),
  'dried-for-its-time': () => 'Dried for its full time: one weighing is enough here.',
  'next-titre': (m) =>
    m.on_scale
      ? `Trial ${m.trial} should take about ${m.about}. Slow down from ${m.slow_from} on the burette.`
      : `Trial ${m.trial} should take about ${m.about}. Slow down after ${m.slow_from}.`,
  'constant-mass': (m) => `Dry: the last two weighings agree within ${m.difference.text}.`,
  'once-again': (m) =>
    m.difference == null
      ? `Provisional: weigh again; two must agree within ${m.within.text}.`
      : `Not dry yet: ${m.difference.text} apart, and ${m.within.text} is the limit. Once again.`,
  'weighed-once': (m) => `Weighed only once (${m.because}).`,
  'stop-reached': (m) =>
    m.found == null ? `Done here: ${m.target}.` : `Done here: ${m.found}, and the target is ${m.target}.`,
  'stop-not-yet': (m) =>
    m.by == null
      ? `Not yet: go on until ${m.target}.`
      : `Not yet: ${m.found ?? ''}, still ${m.by} from ${m.target}.`,
  'stop-passed': (m) => passed(m),
  'too-early': (m) => `Only ${m.waited} of ${m.least}. Give it the full time, or note why.`,
  'portions-so-far': (m) => `${m.portions} so far, ${m.total} in all (${m.of}).`,
  needed: (m) =>
    m.planned == null
      ? `By what you measured, ${m.enough} of ${m.material} is just enough.`
      : `By what you measured, take ${m.planned} of ${m.material}; ${m.enough} would be just enough.`,
  'taken-is-enough': (m) => `Enough ${m.material}: ${m.over} % more than is used up.`,
  'taken-is-short': (m) => `Not enough ${m.material} for what you measured: ${m.short_by} more, at least.`,
  'another-limits': (m) => `Now ${m.limits} runs out first, not ${m.meant} as meant.`,
  'other-unknown': (m) => `You noted ${m.noted}, and were given ${m.allotted}. Look at the label again.`,
  'seen-otherwise': (m) =>
    `By your readings ${m.limits} runs out first, but you saw: ${and(m.seen)}. Look at both again.`,
  'above-theory': (m) =>
    m.far
      ? 'Far more than could form: was something weighed with it, or is a digit wrong?'
      : m.excess == null
        ? 'Heavier than could form: damp? Dry it and weigh again before it leaves the balance.'
        : `Heavier than could form by ${m.excess}: damp? Dry it and weigh again before it leaves the balance.`,
  'second-crop': (m) =>
    `The liquor still holds about ${m.gain}: evaporate it to ${m.to}, let it stand at ${m.at} and filter once more.`,
  'no-second-crop': (m) => `A second crop would bring ${m.gain} at most; it is worth it from ${m.worth} on.`,
  'below-nothing': (m) => `${upper(m.what)} comes out below nothing: are two weighings swapped?`,
  'heavier-after-heating': (m) =>
    `${m.by} heavier after heating. Heating can only make it lighter. Different crucible or lid? Was it still hot last time?`,
  'part-above-whole': (m) =>
    `${upper(m.what)} would be ${m.percent} % of the whole: damp, or another vessel?`,
  'melts-as-pure': (m) => `Melts like pure ${m.substance} (${m.known}).`,
  'melts-low': (m) =>
    `${meltsLow(m)} ${upper(m.substance)} melts at ${m.known}. Impure or damp: dry it, or purify again.`,
  'melts-high': (m) =>
    `Melts up to ${m.above} °C too high; ${m.substance} melts at ${m.known}. Heated too fast, thermometer out, or a different substance?`,
  'range-as-expected': (m) => `As expected at this stage; pure ${m.substance} shows ${m.known}.`,
  'other-than-its-vial': (m) =>
    `Vial ${m.code} holds ${m.is}, which melts at ${m.known}: another vial, or another substance?`,
  'boils-as-pure': (m) => `Boiled like ${m.substance}, which boils at ${m.known} °C today.`,
  'boils-outside': (m) =>
    `${upper(m.substance)} boils at ${m.known} °C today: ${and([
      ...(m.below == null ? [] : [`collected from ${m.below} °C below`]),
      ...(m.above == null ? [] : [`up to ${m.above} °C above`]),
    ])}. Something else came over.`,
  candidates: (m) =>
    m.names.length === 0
      ? 'No candidate melts like this. Once more, 2 °C a minute.'
      : m.names.length === 1
        ? `Only ${m.names[0] ?? ''} melts like this.`
        : `${upper(and(m.names))} melt like this: a mixed melting point decides.`,
  'mixture-melts-alike': () => 'Mixed with this candidate it melts just as before: your unknown is this one.',
  'mixture-melts-lower': (m) =>
    `Mixed with this candidate it starts to melt ${m.by} °C lower, so it is not this one.`,
  'seen-means': (m) => m.means,
  'not-as-expected': (m) => `We expected something else here, not “${m.seen}”. Check, then ask your teacher.`,
  'test-passed': (m) => `Matches the control: ${m.seen}.`,
  'test-failed': (m) =>
    `We expected something else here, not “${m.seen}”. Compare with the controls: ${m.positive} is positive, ${m.negative} is negative.`,
  departed: (m) => departed(m),
}

/** What is low or wide of a melting range; what is as it should be is not said. */
function meltsLow(m: Extract<Matter, { kind: 'melts-low' }>): string {
  const low = Number(m.below) > 0 ? `Starts to melt ${m.below} °C too low` : ''
  const wide = Number(m.width) > 1 ? `melts over ${m.width} °C; a pure solid melts over 1 °C or less` : ''
  return `${upper([low, wide].filter((part) => part !== '').join(' and '))}.`
}

function scattered(m: Extract<Matter, { kind: 'another-trial' }> & { rsd: { text: string } }): string {
  const by = `The ${m.of} scatter by ${m.rsd.text}; ${m.limit.text} is the limit.`
  const which = m.spoiled_by == null ? '' : ` Without trial ${m.spoiled_by} they would agree.`
  if (m.left === 0) return `${by}${which} All places are used: tell your instructor.`
  return `One more. ${by}${which}`
}

function passed(m: Extract<Matter, { kind: 'stop-passed' }>): string {
  if (m.by == null) return `Past it: ${m.found ?? ''}, and ${m.target} was the target. Note it and ask.`
  const where = m.below ? `${m.by} too low` : `${m.by} past it`
  const back = m.back == null ? 'Note it and ask.' : `${upper(m.back)}.`
  return `${where}: ${m.found ?? ''}, and ${m.target} is the target. ${back}`
}

function departed(m: Extract<Matter, { kind: 'departed' }>): string {
  const limits = m.limits == null ? '' : `With that, ${m.limits} runs out first. `
  const changes = m.changes.map((c) => `${c.label} ${c.with_it} ${c.unit} instead of ${c.before}`)
  if (changes.length > 0) return `${limits}Your results now allow for this: ${changes.join('; ')}.`
  return limits === '' ? 'Noted.' : limits.trim()
}

/** What there is to tell, as a sentence for the bench: what to do comes first. */
export const adviceWords = (a: Advice) => say(matters, a.matter)

/** Too few trials for an outlier test, or one of only three stands apart. */
function outlierWaits(m: Extract<Matter, { kind: 'outlier-test-waits' }>): string {
  if (m.trials < m.wanted) return `${m.trials} of ${m.wanted} accurate trials done.`
  const apart = m.set_aside == null ? '' : `Trial ${m.set_aside} looks like an outlier. `
  return m.left > 0
    ? `${apart}Three trials are too few to be sure: run one more.`
    : `${apart}There is no room for another: show your instructor.`
}

/** How many of the accurate titres count. */
function used(titres: Extract<Matter, { kind: 'titres-agree' }>['titres']): string {
  const accurate = titres.filter((t) => !t.rough)
  return `${accurate.filter((t) => t.agrees).length} of ${accurate.length} used.`
}

function oneMore(m: Extract<Matter, { kind: 'one-more' }>): string {
  if (m.agreeing > 1)
    return `${m.agreeing} agree within ${(m.closest ?? m.limit).text}; ${m.wanted} are wanted: one more.`
  if (m.closest == null)
    return `One more: ${m.wanted === 2 ? 'two' : m.wanted} must agree within ${m.limit.text}.`
  return `One more: the nearest two are ${m.closest.text} apart, and ${m.limit.text} is the limit.`
}

/** Titres that go one way point at a cause, not at chance. */
const drifting = (drift: boolean) =>
  drift ? ' They keep moving one way: look for a leak, a warming burette or a fading end point.' : ''
