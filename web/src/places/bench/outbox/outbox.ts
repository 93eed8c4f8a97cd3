import { client, Refused, unwrapped, type NewEntry } from '@/api'
import { heldEntries, hold, letGo, markRefused, unmark, type Held } from './device'

/** An entry on its way: held on this device, refused, or arrived but not yet in the view that is shown. */
export interface OnItsWay extends Held {
  /** The record's sequence number, once it has arrived. */
  seq?: number
  /** Another device had corrected the same entry first. */
  overtook?: boolean
}

const WAITS_MS = [500, 1000, 2000, 4000, 8000]

/**
 * Sends what this device holds, one at a time and in order. An entry is written to the device before it is sent, and
 * deleted after the server has said that it is on disk; sent twice, it is stored once, because its id is its own.
 */
export class Outbox {
  readonly #bench: string
  /** The bench that the device was at before its group went on with another one; its entries are sent from here. */
  readonly #before: string
  readonly #onKept: () => void
  #entries: readonly OnItsWay[] = []
  #listeners = new Set<() => void>()
  /** Numbers of entries that are shown and not yet written down: below zero. */
  #unwritten = 0
  #started = false
  #sending = false
  #onceMore = false
  #failures = 0
  #timer: ReturnType<typeof setTimeout> | undefined

  constructor(bench: string, onKept: () => void, before = bench) {
    this.#bench = bench
    this.#before = before
    this.#onKept = onKept
  }

  /** Reads what an earlier page left, and starts to send. */
  async start(): Promise<void> {
    const benches = [...new Set([this.#before, this.#bench])]
    const left = (await Promise.all(benches.map(heldEntries))).flat().sort((a, b) => a.order - b.order)
    this.#started = true
    this.#set([...left, ...this.#entries.filter((e) => !left.some((l) => l.order === e.order))])
    this.flush()
  }

  stop(): void {
    clearTimeout(this.#timer)
  }

  subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener)
    return () => {
      this.#listeners.delete(listener)
    }
  }

  entries = (): readonly OnItsWay[] => this.#entries

  /** Whether it is known what an earlier page left: before that nobody can say that all has arrived. */
  isStarted = (): boolean => this.#started

  /**
   * Keeps an entry on this device and sends it as soon as the network allows. It is shown at once, so that whoever types
   * on fast types into the next place; it is sent only when it is written down.
   */
  async keep(entry: NewEntry): Promise<void> {
    const shown: OnItsWay = { bench: this.#bench, entry, order: --this.#unwritten }
    this.#set([...this.#entries, shown])
    const written = await hold(this.#bench, entry).catch(() => ({
      ...shown,
      refused: 'this device could not keep it; write it down',
    }))
    this.#set(this.#entries.map((e) => (e.order === shown.order ? written : e)))
    this.flush()
  }

  /** Forgets an entry that was refused. */
  async drop(order: number): Promise<void> {
    await letGo(order)
    this.#set(this.#entries.filter((e) => e.order !== order))
  }

  /** Sends an entry once more that was refused, where what stood against it is over. */
  async sendAgain(order: number): Promise<void> {
    const held = this.#entries.find((e) => e.order === order)
    if (!held) return
    await unmark(held)
    const { bench, entry } = held
    this.#set(this.#entries.map((e) => (e.order === order ? { bench, entry, order } : e)))
    this.flush()
  }

  /** What has arrived up to `seq` is in the view now and need not be shown from here. */
  settle(seq: number): void {
    const left = this.#entries.filter((e) => e.seq === undefined || e.seq > seq || e.overtook === true)
    if (left.length < this.#entries.length) this.#set(left)
  }

  /** Sends now; called when the network is back. */
  flush = (): void => {
    // A round that is ending may have looked a moment too early.
    if (this.#sending) {
      this.#onceMore = true
      return
    }
    clearTimeout(this.#timer)
    this.#sending = true
    void this.#send().finally(() => {
      this.#sending = false
      if (!this.#onceMore) return
      this.#onceMore = false
      this.flush()
    })
  }

  async #send(): Promise<void> {
    for (;;) {
      const next = this.#entries.find((e) => e.seq === undefined && e.refused === undefined)
      // What is not written down yet is waited for: the order is kept.
      if (!next || next.order < 0) return
      try {
        const { seq, overtook } = await unwrapped(client.POST('/api/v1/bench/entries', { body: next.entry }))
        await letGo(next.order)
        this.#failures = 0
        this.#change(next.order, { seq, overtook })
        this.#onKept()
      } catch (error) {
        if (!(error instanceof Refused && isFinal(error))) {
          this.#later()
          return
        }
        const whileClosed = error.kind === 'run-closed'
        await markRefused(next, error.message, whileClosed)
        this.#change(next.order, { refused: error.message, whileClosed })
      }
    }
  }

  #later(): void {
    const wait = WAITS_MS[Math.min(this.#failures, WAITS_MS.length - 1)] ?? 8000
    this.#failures += 1
    this.#timer = setTimeout(this.flush, wait)
  }

  #change(order: number, to: Partial<OnItsWay>): void {
    this.#set(this.#entries.map((e) => (e.order === order ? { ...e, ...to } : e)))
  }

  #set(entries: readonly OnItsWay[]): void {
    this.#entries = entries
    this.#listeners.forEach((listener) => {
      listener()
    })
  }
}

/**
 * A no that does not turn into a yes by waiting: all but a class that is paused, a lost sign-in, too many tries, and the
 * server's own failures.
 */
function isFinal({ status, kind }: Refused): boolean {
  if (kind === 'run-paused') return false
  return status >= 400 && status < 500 && status !== 401 && status !== 408 && status !== 429
}
