import type { PrepareLine } from '@/api'

/** A solution that several classes need, made in one go. */
export interface Batch {
  name: string
  form: string
  /** mL, of all classes together. */
  provide: number
  /** Where its recipe is: of the class that needs it first. */
  run: number
  symbol: string
  classes: { name: string; provide: number }[]
}

/** What more than one class needs and nobody has made yet, in the order of the lessons. */
export function batches(runs: readonly PrepareLine[]): Batch[] {
  const found = new Map<string, Batch>()
  for (const run of runs) {
    for (const s of run.solutions.filter((solution) => !solution.ready)) {
      const key = `${s.name}\n${s.form}`
      const known = found.get(key)
      const own = { name: run.class, provide: s.provide }
      if (known === undefined) {
        found.set(key, {
          name: s.name,
          form: s.form,
          provide: s.provide,
          run: run.run,
          symbol: s.symbol,
          classes: [own],
        })
      } else {
        known.provide += s.provide
        known.classes.push(own)
      }
    }
  }
  return [...found.values()].filter((b) => b.classes.length > 1)
}
