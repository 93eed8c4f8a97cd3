import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { followRun } from './follow'
import type { RunEvent } from './named'

/** A stand-in for the browser's stream, which the test speaks for. */
class Stream {
  static all: Stream[] = []
  static readonly CLOSED = 2
  readyState = 0
  onopen: (() => void) | null = null
  onerror: (() => void) | null = null
  onmessage: ((event: { data: string }) => void) | null = null
  readonly address: string

  constructor(address: string) {
    this.address = address
    Stream.all.push(this)
  }

  close() {
    this.readyState = Stream.CLOSED
  }

  /** The server says no: the browser gives up. */
  refuse() {
    this.readyState = Stream.CLOSED
    this.onerror?.()
  }
}

const open = () => Stream.all.filter((s) => s.readyState !== Stream.CLOSED)
const page = Object.assign(new EventTarget(), { hidden: false })

function look(hidden: boolean) {
  page.hidden = hidden
  page.dispatchEvent(new Event('visibilitychange'))
}

let events: RunEvent[]
let states: boolean[]
let stop: () => void

beforeEach(() => {
  vi.useFakeTimers()
  vi.stubGlobal('EventSource', Stream)
  vi.stubGlobal('document', page)
  Stream.all = []
  page.hidden = false
  events = []
  states = []
  stop = followRun(
    7,
    (event) => events.push(event),
    (state) => states.push(state),
  )
})

afterEach(() => {
  stop()
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('following a run', () => {
  it('hands on what comes and says whether the line is open', () => {
    const [stream] = Stream.all
    expect(stream?.address).toBe('/api/v1/runs/7/events')
    stream?.onopen?.()
    stream?.onmessage?.({ data: '{"seq":3,"rows":[]}' })
    stream?.onerror?.()
    expect(events).toEqual([{ seq: 3, rows: [] }])
    expect(states).toEqual([true, false])
    // The browser tries again by itself: no second stream beside it.
    vi.advanceTimersByTime(60_000)
    expect(Stream.all).toHaveLength(1)
  })

  it('gives its connection back while nobody looks, and holds one at most', () => {
    look(true)
    expect(open()).toHaveLength(0)
    look(false)
    look(false)
    expect(open()).toHaveLength(1)
    expect(Stream.all).toHaveLength(2)
  })

  it('asks again after a refusal, once, and not while hidden', () => {
    Stream.all[0]?.refuse()
    expect(open()).toHaveLength(0)
    vi.advanceTimersByTime(3000)
    expect(open()).toHaveLength(1)
    open()[0]?.refuse()
    look(true)
    vi.advanceTimersByTime(10_000)
    expect(open()).toHaveLength(0)
    look(false)
    expect(open()).toHaveLength(1)
  })

  it('is silent for good once it is left, even with a retry under way', () => {
    Stream.all[0]?.refuse()
    stop()
    vi.advanceTimersByTime(10_000)
    look(false)
    expect(open()).toHaveLength(0)
  })
})
