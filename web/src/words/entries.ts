import type { EntryBody } from '@/api'
import { setUnit } from '@/ui'
import { deviationWords } from './departures'
import { flagWords } from './findings'

/** What the places of a run are called. */
export interface Called {
  /** Symbols and labels of the readings, one for each place. */
  readings: readonly { symbol: string; label: string }[]
  observations: readonly { symbol: string; question: string }[]
  results: readonly { name: string; label: string }[]
  materials: readonly { symbol: string; name: string }[]
  steps: readonly string[]
}

/** One thing said at a bench, in a line: what it is about, and what was said. */
export function entryWords(entry: EntryBody, called: Called): { about: string; said: string } {
  const step = (n: number) => `step ${n + 1}${called.steps[n] === undefined ? '' : `, ${called.steps[n]}`}`
  const reading = (symbol: string) => called.readings.find((r) => r.symbol === symbol)?.label ?? symbol
  const question = (symbol: string) =>
    called.observations.find((o) => o.symbol === symbol)?.question ?? symbol
  const result = (name: string) => called.results.find((r) => r.name === name)?.label ?? name
  switch (entry.kind) {
    case 'reading': {
      const how = [
        entry.on == null ? '' : `${entry.sent === true ? 'sent by ' : ''}${entry.on}`,
        entry.borrowed == null ? '' : `borrowed from ${entry.borrowed}`,
        ...(entry.flags ?? []).map((f) => flagWords[f].name),
      ].filter(Boolean)
      const value = `${entry.text} ${setUnit(entry.unit)}`
      return {
        about: reading(entry.symbol),
        said: how.length === 0 ? value : `${value} (${how.join(', ')})`,
      }
    }
    case 'confirmed':
      return { about: reading(entry.symbol), said: 'checked by the group' }
    case 'observation':
      return { about: question(entry.symbol), said: entry.choice }
    case 'answer':
      return { about: result(entry.result), said: `answer ${entry.text} ${setUnit(entry.unit)}` }
    case 'struck': {
      const about =
        entry.place === 'reading'
          ? reading(entry.name)
          : entry.place === 'observation'
            ? question(entry.name)
            : result(entry.name)
      return { about, said: 'taken out' }
    }
    case 'begun':
      return { about: step(entry.step), said: 'begun' }
    case 'step':
      return { about: step(entry.step), said: entry.done ? 'done' : 'not done after all' }
    case 'clock':
      return { about: step(entry.step), said: entry.running ? 'clock started' : 'clock stopped' }
    case 'deviation':
      return {
        about: step(entry.step),
        said: entry.withdrawn === true ? 'withdrawn' : deviationWords(entry, called.materials),
      }
    case 'tag':
      return { about: entry.vessel, said: `number ${entry.tag}` }
    case 'bottle':
      return {
        about: called.materials.find((m) => m.symbol === entry.material)?.name ?? entry.material,
        said: `from ${entry.name}`,
      }
    case 'photo':
      return { about: step(entry.step), said: entry.deleted === true ? 'photo deleted' : 'photo taken' }
    case 'heard':
      return { about: 'message', said: 'read' }
    case 'help':
      return { about: 'help', said: entry.wanted ? `called ${entry.about ?? ''}` : 'no longer needed' }
  }
}
