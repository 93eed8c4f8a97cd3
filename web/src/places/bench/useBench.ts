import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useMemo, useState, useSyncExternalStore } from 'react'
import { v7 as uuidv7 } from 'uuid'
import { client, followBench, told, type BenchView, type EntryBody } from '@/api'
import { Outbox, type OnItsWay } from './outbox'

const KEY = ['bench']

/** The bench of this device's group, fetched again whenever something of it has changed. */
export function useBench() {
  return useQuery({
    queryKey: KEY,
    queryFn: async () => {
      const view = await told(client.GET('/api/v1/bench'))
      return { view, contact: { server: view.now, device: Date.now() } }
    },
    refetchOnReconnect: true,
  })
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
}

/** Entering at this bench: kept on the device first, sent in order, shown at once. */
export function useEntering(view: BenchView, contact: Contact): Entering {
  const queries = useQueryClient()
  const [connected, setConnected] = useState(true)
  const bench = `${view.group_id}`
  const outbox = useMemo(
    () => new Outbox(bench, () => void queries.invalidateQueries({ queryKey: KEY })),
    [bench, queries],
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
  const enter = useCallback(
    (entry: EntryBody, correction?: Correction) => {
      void outbox.keep({
        id: uuidv7(),
        group: view.group_id,
        entry,
        ...correction,
        taken_at: Math.round(contact.server + Date.now() - contact.device),
        last_contact: contact.server,
      })
    },
    [outbox, view.group_id, contact],
  )
  const drop = useCallback((order: number) => void outbox.drop(order), [outbox])
  return { onTheirWay, started, connected, enter, drop }
}
