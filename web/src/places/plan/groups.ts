/** Names for groups when nobody has better ones: minerals, by the alphabet. */
export const MINERALS = [
  'Beryl',
  'Calcite',
  'Dolomite',
  'Feldspar',
  'Galena',
  'Haematite',
  'Jasper',
  'Olivine',
  'Pyrite',
  'Quartz',
  'Rutile',
  'Sphalerite',
  'Talc',
  'Ulexite',
  'Vanadinite',
  'Witherite',
  'Zircon',
  'Apatite',
  'Barite',
  'Corundum',
] as const

/** A group to be: its name, and the people in it. */
export interface Group {
  name: string
  people: number[]
}

/** The groups that a list of names means, each with the people that it had. */
export function named(text: string, before: readonly Group[]): Group[] {
  const names = text
    .split(/[,\n]/)
    .map((n) => n.trim())
    .filter(Boolean)
  return names.map((name, i) => ({ name, people: before[i]?.people ?? [] }))
}

/**
 * Everybody dealt out by lot over so many groups, which differ by one person at most. `random` gives numbers from 0 up to
 * 1, as Math.random does.
 */
export function shuffled(people: readonly number[], names: readonly string[], random: () => number): Group[] {
  const order = [...people]
  for (let i = order.length - 1; i > 0; i -= 1) {
    const j = Math.floor(random() * (i + 1))
    const one = order[i]
    const other = order[j]
    if (one !== undefined && other !== undefined) [order[i], order[j]] = [other, one]
  }
  return names.map((name, i) => ({ name, people: order.filter((_, at) => at % names.length === i) }))
}

/** A person at another group, or at none. */
export function moved(groups: readonly Group[], person: number, to: number | null): Group[] {
  return groups.map((g, i) => ({
    ...g,
    people: [...g.people.filter((p) => p !== person), ...(i === to ? [person] : [])],
  }))
}
