import { beforeEach, describe, expect, it, vi } from 'vitest'
import { Refused, type NewEntry } from '@/api'
import type { Held } from './device'
import { Outbox } from './outbox'

/** The device's database and the server, each as a list. */
const world = vi.hoisted(() => ({
  kept: [] as { order: number; bench: string; entry: { id: string }; refused?: string }[],
  arrived: [] as string[],
  /** What the server does with the next entry. */
  server: (id: string): { seq: number } => {
    world.arrived.push(id)
    return { seq: world.arrived.length }
  },
}))

vi.mock('./device', () => ({
  heldEntries: (bench: string) => Promise.resolve(world.kept.filter((h) => h.bench === bench)),
  hold: (bench: string, entry: NewEntry) => {
    const held = { order: (world.kept.at(-1)?.order ?? 0) + 1, bench, entry }
    world.kept.push(held)
    return Promise.resolve(held as Held)
  },
  markRefused: (held: Held, refused: string) => {
    world.kept = world.kept.map((h) => (h.order === held.order ? { ...h, refused } : h))
    return Promise.resolve()
  },
  unmark: ({ order, bench, entry }: Held) => {
    world.kept = world.kept.map((h) => (h.order === order ? { order, bench, entry } : h))
    return Promise.resolve()
  },
  letGo: (order: number) => {
    world.kept = world.kept.filter((h) => h.order !== order)
    return Promise.resolve()
  },
}))

vi.mock('@/api', async (original) => {
  const api = await original<typeof import('@/api')>()
  return {
    ...api,
    client: { POST: (_: string, { body }: { body: NewEntry }) => body.id },
    unwrapped: (id: string) => Promise.resolve().then(() => world.server(id)),
  }
})

const entry = (id: string): NewEntry => ({
  id,
  group: 5,
  entry: { kind: 'reading', symbol: 'm_dish', text: '47.91', unit: 'g' },
  taken_at: 0,
})

/** Lets everything that is ready happen. */
const settle = () => vi.advanceTimersByTimeAsync(0)

describe('what a device holds', () => {
  beforeEach(() => {
    vi.useFakeTimers()
    world.kept = []
    world.arrived = []
    world.server = (id) => {
      world.arrived.push(id)
      return { seq: world.arrived.length }
    }
  })

  it('is sent in order, once, and then let go', async () => {
    const outbox = new Outbox('5', () => undefined)
    await Promise.all(['a', 'b', 'c'].map((id) => outbox.keep(entry(id))))
    await settle()
    expect(world.arrived).toEqual(['a', 'b', 'c'])
    expect(world.kept).toEqual([])
    expect(outbox.entries().map((e) => e.seq)).toEqual([1, 2, 3])
    outbox.settle(2)
    expect(outbox.entries().map((e) => e.entry.id)).toEqual(['c'])
  })

  it('is sent as well when its group has gone on at another bench, before anything made there', async () => {
    world.kept = [
      { order: 1, bench: '5', entry: { id: 'own' } },
      { order: 2, bench: '7', entry: { id: 'shared' } },
      { order: 3, bench: '8', entry: { id: 'somebody else' } },
    ]
    const outbox = new Outbox('7', () => undefined, '5')
    await outbox.start()
    await settle()
    expect(world.arrived).toEqual(['own', 'shared'])
    expect(world.kept.map((h) => h.bench)).toEqual(['8'])
  })

  it('waits for a class that is paused, and goes on by itself', async () => {
    const online = world.server
    world.server = () => {
      throw new Refused(409, 'run-paused', 'the class is paused')
    }
    const outbox = new Outbox('5', () => undefined)
    await outbox.keep(entry('a'))
    await settle()
    expect(outbox.entries()[0]?.refused).toBeUndefined()
    world.server = online
    await vi.advanceTimersByTimeAsync(10_000)
    expect(world.arrived).toEqual(['a'])
  })

  it('shows an entry at once, and sends it only when it is written down', async () => {
    const outbox = new Outbox('5', () => undefined)
    const kept = outbox.keep(entry('a'))
    expect(outbox.entries().map((e) => e.entry.id)).toEqual(['a'])
    outbox.flush()
    expect(world.arrived).toEqual([])
    await kept
    await settle()
    expect(world.arrived).toEqual(['a'])
  })

  it('waits for the network, keeps its order, and tries again by itself', async () => {
    const online = world.server
    world.server = () => {
      throw new TypeError('Failed to fetch')
    }
    const outbox = new Outbox('5', () => undefined)
    await outbox.keep(entry('a'))
    await outbox.keep(entry('b'))
    await settle()
    expect(world.kept.map((h) => h.entry.id)).toEqual(['a', 'b'])
    world.server = online
    await vi.advanceTimersByTimeAsync(10_000)
    expect(world.arrived).toEqual(['a', 'b'])
    expect(world.kept).toEqual([])
  })

  it('goes on past an entry that the server will never take, and keeps it with its reason', async () => {
    const online = world.server
    world.server = (id) => {
      if (id === 'a') throw new Refused(422, 'invalid', 'mass is read in g, not in mg')
      return online(id)
    }
    const outbox = new Outbox('5', () => undefined)
    await outbox.keep(entry('a'))
    await outbox.keep(entry('b'))
    await settle()
    expect(world.arrived).toEqual(['b'])
    expect(world.kept).toMatchObject([{ entry: { id: 'a' }, refused: 'mass is read in g, not in mg' }])
    await outbox.drop(1)
    expect(outbox.entries().filter((e) => e.refused !== undefined)).toEqual([])
    expect(world.kept).toEqual([])
  })

  it('keeps what a closed run refused, and sends it when somebody says so once it is open', async () => {
    const online = world.server
    world.server = () => {
      throw new Refused(409, 'run-closed', 'this run is closed')
    }
    const outbox = new Outbox('5', () => undefined)
    await outbox.keep(entry('a'))
    await settle()
    expect(outbox.entries()).toMatchObject([{ refused: 'this run is closed', whileClosed: true }])
    world.server = online
    await outbox.sendAgain(1)
    await settle()
    expect(world.arrived).toEqual(['a'])
    expect(world.kept).toEqual([])
    expect(outbox.entries().filter((e) => e.refused !== undefined)).toEqual([])
  })

  it.each([401, 408, 429, 500])('holds on to everything when the server says %i', async (status) => {
    world.server = () => {
      throw new Refused(status, 'x', 'not now')
    }
    const outbox = new Outbox('5', () => undefined)
    await outbox.keep(entry('a'))
    await settle()
    expect(outbox.entries()).toMatchObject([{ entry: { id: 'a' } }])
    expect(outbox.entries()[0]?.refused).toBeUndefined()
    expect(world.kept).toHaveLength(1)
    outbox.stop()
  })

  it('finds what an earlier page left, of its own bench alone', async () => {
    world.kept = [
      { order: 1, bench: '5', entry: entry('mine') },
      { order: 2, bench: '6', entry: entry('theirs') },
    ]
    const told = vi.fn()
    const outbox = new Outbox('5', told)
    expect(outbox.isStarted()).toBe(false)
    await outbox.start()
    expect(outbox.isStarted()).toBe(true)
    await settle()
    expect(world.arrived).toEqual(['mine'])
    expect(world.kept.map((h) => h.entry.id)).toEqual(['theirs'])
    expect(told).toHaveBeenCalledTimes(1)
  })
})
