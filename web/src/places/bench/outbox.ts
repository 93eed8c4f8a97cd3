import { client, Refused, told, type NewEntry } from '@/api'
import { heldEntries, hold, letGo, markRefused, type Held } from './device'

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
  readonly #onKept: () => void
  #entries: readonly OnItsWay[] = []
  #listeners = new Set<() => void>()
  #sending = false
  #failures = 0
  #timer: ReturnType<typeof setTimeout> | undefined

  constructor(bench: string, onKept: () => void) {
    this.#bench = bench
    this.#onKept = onKept
  }

  /** Reads what an earlier page left, and starts to send. */
  async start(): Promise<void> {
    const left = await heldEntries(this.#bench)
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

  /** Keeps an entry on this device and sends it as soon as the network allows. */
  async keep(entry: NewEntry): Promise<void> {
    const held = await hold(this.#bench, entry)
    this.#set([...this.#entries, held])
    this.flush()
  }

  /** Forgets an entry that was refused. */
  async drop(order: number): Promise<void> {
    await letGo(order)
    this.#set(this.#entries.filter((e) => e.order !== order))
  }

  /** What has arrived up to `seq` is in the view now and need not be shown from here. */
  settle(seq: number): void {
    const left = this.#entries.filter((e) => e.seq === undefined || e.seq > seq || e.overtook === true)
    if (left.length < this.#entries.length) this.#set(left)
  }

  /** Sends now; called when the network is back. */
  flush = (): void => {
    if (this.#sending) return
    clearTimeout(this.#timer)
    this.#sending = true
    void this.#send().finally(() => {
      this.#sending = false
    })
  }

  async #send(): Promise<void> {
    for (;;) {
      const next = this.#entries.find((e) => e.seq === undefined && e.refused === undefined)
      if (!next) return
      try {
        const { seq, overtook } = await told(client.POST('/api/v1/bench/entries', { body: next.entry }))
        await letGo(next.order)
        this.#failures = 0
        this.#change(next.order, { seq, overtook })
        this.#onKept()
      } catch (error) {
        if (!(error instanceof Refused && isFinal(error.status))) {
          this.#later()
          return
        }
        await markRefused(next, error.message)
        this.#change(next.order, { refused: error.message })
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

/** A no that does not turn into a yes by waiting: all but a lost sign-in, too many tries, and the server's own failures. */
function isFinal(status: number): boolean {
  return status >= 400 && status < 500 && status !== 401 && status !== 408 && status !== 429
}
