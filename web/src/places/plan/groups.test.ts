import { describe, expect, it } from 'vitest'
import { moved, named, shuffled } from './groups'

describe('groups of a run', () => {
  it('are dealt so that everybody is somewhere once and groups differ by one at most', () => {
    const people = Array.from({ length: 23 }, (_, i) => i + 1)
    const names = ['Beryl', 'Calcite', 'Dolomite', 'Feldspar', 'Galena']
    let seed = 7
    const random = () => {
      seed = (seed * 16807) % 2147483647
      return seed / 2147483647
    }
    const groups = shuffled(people, names, random)
    expect(groups.flatMap((g) => g.people).sort((a, b) => a - b)).toEqual(people)
    const sizes = groups.map((g) => g.people.length)
    expect(Math.max(...sizes) - Math.min(...sizes)).toBe(1)
    expect(groups.flatMap((g) => g.people)).not.toEqual(people)
    expect(people[0]).toBe(1)
  })

  it('keep their people when they are renamed, and a person is at one of them', () => {
    const before = [
      { name: 'Beryl', people: [1, 2] },
      { name: 'Calcite', people: [3] },
    ]
    expect(named('Ammonite,\n Calcite , ,Dolomite', before)).toEqual([
      { name: 'Ammonite', people: [1, 2] },
      { name: 'Calcite', people: [3] },
      { name: 'Dolomite', people: [] },
    ])
    expect(moved(before, 2, 1)).toEqual([
      { name: 'Beryl', people: [1] },
      { name: 'Calcite', people: [3, 2] },
    ])
    expect(moved(before, 3, null)[1]?.people).toEqual([])
  })
})
