import type { Classified, ExperimentRemark, PlannedLesson, Remedy, Signal } from '@/api'

/** Whether a lesson fits, in one sentence. */
export function fitWords(lesson: PlannedLesson, groups: number): string {
  const { timetable, minutes, slow } = lesson
  if (timetable == null) return 'There is no plan for this lesson.'
  const least = timetable.makespan
  const all = `${groups} groups need ${least} min of ${minutes}`
  if (least > minutes) return `${all}: ${least - minutes} min too long.`
  if (slow != null && slow > minutes)
    return `${all}; slow ones need ${slow}, which is ${slow - minutes} too long.`
  return slow == null ? `${all}.` : `${all}; slow ones need ${slow}.`
}

/** What was proved about a plan. */
export function provedWords(lesson: PlannedLesson): string {
  const { timetable } = lesson
  if (timetable == null) return ''
  const { makespan, lower_bound } = timetable
  if (makespan === lower_bound) return 'No plan is shorter.'
  return `No plan is shorter than ${lower_bound} min.`
}

/** What would make it fit. */
export function remedyWords(remedy: Remedy): string {
  switch (remedy.remedy) {
    case 'sums-afterwards':
      return `Do the calculations after the lesson: ${remedy.makespan} min.`
    case 'more':
      return `With ${remedy.count} × ${remedy.resource}: ${remedy.makespan} min.`
    case 'fewer-groups':
      return `With ${remedy.groups} groups, each larger: ${remedy.makespan} min.`
  }
}

/** Why a lesson ends where it ends. */
export function thenWords(lesson: PlannedLesson): string {
  switch (lesson.then.then) {
    case 'done':
      return ''
    case 'waits':
      return `Then it waits: ${lesson.then.wait}.`
    case 'rests':
      return 'Here the work can rest until another day.'
  }
}

/** Which part of the time something is in use. */
export function busyWords(busy: number): string {
  return `in use ${Math.round(100 * busy)}\u2009% of the time`
}

/** What cannot be, or cannot be said, of a result. */
export function remarkWords(remark: ExperimentRemark): string {
  switch (remark) {
    case 'below-nothing':
      return 'Below nothing, which cannot be: look at the readings again.'
    case 'consistent-with-zero':
      return 'It cannot be told from zero.'
    case 'more-than-possible':
      return 'More than there can be: look at the readings again.'
    case 'runs-out-together':
      return 'Both run out together, so nobody can say which decides how sure it is.'
  }
}

/** Why a material carries no hazard statement. */
export function classifiedWords(classified: Classified): string {
  switch (classified) {
    case 'stated':
      return 'as stated'
    case 'not-classified':
      return 'not classified as hazardous'
    case 'too-dilute':
      return 'too dilute to be classified as hazardous'
    case 'not-filled-in':
      return "not filled in: look at the supplier's sheet"
  }
}

/** The word over the hazards of a label. */
export function signalWord(signal: Signal): string {
  switch (signal) {
    case 'danger':
      return 'Danger.'
    case 'warning':
      return 'Warning.'
  }
}

/** Why there is no plan. */
export function noPlanWords({ no_plan }: PlannedLesson): string {
  if (no_plan == null) return ''
  switch (no_plan.why) {
    case 'wait':
      return `After “${no_plan.after}” the wait is to be at least ${no_plan.least} min and at most ${no_plan.most}: no wait is both.`
    case 'none-of-it':
      return `“${no_plan.task}” needs ${no_plan.resource}, and there is none.`
    case 'too-much':
      return no_plan.told
  }
}
