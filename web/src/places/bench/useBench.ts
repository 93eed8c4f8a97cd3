import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useMemo, useState, useSyncExternalStore } from 'react'
import { v7 as uuidv7 } from 'uuid'
import { client, followBench, Refused, unwrapped, type BenchView, type EntryBody } from '@/api'
import { draftOf, keepDraft } from './outbox/device'
import { Outbox, type OnItsWay } from './outbox/outbox'
import { rememberedWriter, rememberWriter } from './reading/remembered'

const KEY = ['bench']
/** Where this device keeps what it saw last. */
const LAST_SEEN = 'last-seen'

/** The bench of this device's group, fetched again whenever something of it has changed. */
export function useBench() {
  return useQuery({
    queryKey: KEY,
    queryFn: async () => {
      try {
        const view = await unwrapped(client.GET('/api/v1/bench'))
        const last = { view, contact: { server: view.now, device: Date.now() } }
        void keepDraft(LAST_SEEN, JSON.stringify(last))
        return last
      } catch (error) {
        if (error instanceof Refused) {
          // Another group may take this device: what it saw of this one is not its business.
          if (error.status === 401) void keepDraft(LAST_SEEN, '')
          throw error
        }
        return lastSeen(error)
      }
    },
    refetchOnReconnect: true,
  })
}

/** The bench as this device saw it last, for a page that is opened without a network; nothing of it is judged anew. */
async function lastSeen(otherwise: unknown): Promise<{ view: BenchView; contact: Contact }> {
  const kept = await draftOf(LAST_SEEN)
  if (kept === '') throw otherwise
  const { view, contact } = JSON.parse(kept) as { view: BenchView; contact: Contact }
  return { view: { ...view, now: contact.server + Date.now() - contact.device }, contact }
}

/** Last contact with the server: what a device's clock is set by. */
export interface Contact {
  server: number
  device: number
}

export interface Correction {
  supersedes: string
  /** Left out where it follows at once. */
  reason?: string
}

export interface Entering {
  onTheirWay: readonly OnItsWay[]
  /** It is known what this device holds. */
  started: boolean
  /** The server can be heard at the moment. */
  connected: boolean
  enter: (entry: EntryBody, correction?: Correction) => void
  drop: (order: number) => void
  /** Sends an entry once more that a closed run refused. */
  sendAgain: (order: number) => void
  /** Who of the group writes on this device; nobody said if none. */
  writer: number | null
  setWriter: (person: number | null) => void
}

/** Entering at this bench: kept on the device first, sent in order, shown at once. */
export function useEntering(view: BenchView, contact: Contact): Entering {
  const queries = useQueryClient()
  const [connected, setConnected] = useState(true)
  const bench = `${view.group_id}`
  const outbox = useMemo(
    () => new Outbox(bench, () => void queries.invalidateQueries({ queryKey: KEY }), `${view.own_group_id}`),
    [bench, queries, view.own_group_id],
  )
  useEffect(() => {
    void outbox.start()
    const unfollow = followBench(
      () => void queries.invalidateQueries({ queryKey: KEY }),
      (open) => {
        setConnected(open)
        if (open) {
          outbox.flush()
          void queries.invalidateQueries({ queryKey: KEY })
        }
      },
    )
    window.addEventListener('online', outbox.flush)
    return () => {
      unfollow()
      window.removeEventListener('online', outbox.flush)
      outbox.stop()
    }
  }, [outbox, queries])
  useEffect(() => {
    outbox.settle(view.seq)
  }, [outbox, view.seq])
  const onTheirWay = useSyncExternalStore(outbox.subscribe, outbox.entries)
  const started = useSyncExternalStore(outbox.subscribe, outbox.isStarted)
  const [writer, setWriter] = useState<number | null>(() => rememberedWriter(view.group_id))
  // Somebody who is at another bench today does not write here.
  const writes = view.people.some((p) => p.id === writer) ? writer : null
  useEffect(() => {
    rememberWriter(view.group_id, writer)
  }, [view.group_id, writer])
  const enter = useCallback(
    (entry: EntryBody, correction?: Correction) => {
      void outbox.keep({
        id: uuidv7(),
        group: view.group_id,
        entry,
        ...correction,
        person: writes,
        taken_at: Math.round(contact.server + Date.now() - contact.device),
        last_contact: contact.server,
      })
    },
    [outbox, view.group_id, contact, writes],
  )
  const drop = useCallback((order: number) => void outbox.drop(order), [outbox])
  const sendAgain = useCallback((order: number) => void outbox.sendAgain(order), [outbox])
  return { onTheirWay, started, connected, enter, drop, sendAgain, writer: writes, setWriter }
}
