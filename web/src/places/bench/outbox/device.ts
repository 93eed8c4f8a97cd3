import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { NewEntry } from '@/api'

/** An entry that this device holds, in the order in which it was made. */
export interface Held {
  /** Place in the order; given by the database. */
  order: number
  /** The bench it belongs to: another group's is never sent from here. */
  bench: string
  entry: NewEntry
  /** Why the server did not take it, in its words. */
  refused?: string
  /** It came while the run was closed: it can be sent once that is open again. */
  whileClosed?: boolean
}

interface Device extends DBSchema {
  outbox: { key: number; value: Held }
  drafts: { key: string; value: string }
}

let opened: Promise<IDBPDatabase<Device>> | undefined

/** What this device keeps for itself: entries not yet sent, and digits not yet entered. */
function device(): Promise<IDBPDatabase<Device>> {
  opened ??= openDB<Device>('keen-beaker', 1, {
    upgrade(db) {
      db.createObjectStore('outbox', { keyPath: 'order', autoIncrement: true })
      db.createObjectStore('drafts')
    },
  })
  return opened
}

export async function heldEntries(bench: string): Promise<Held[]> {
  return (await (await device()).getAll('outbox')).filter((h) => h.bench === bench)
}

/** Entries of any bench that this device still holds. */
export async function allHeld(): Promise<Held[]> {
  return (await device()).getAll('outbox')
}

export async function hold(bench: string, entry: NewEntry): Promise<Held> {
  // The database gives the order.
  const value = { bench, entry } as Held
  const order = await (await device()).add('outbox', value)
  return { ...value, order }
}

export async function markRefused(held: Held, refused: string, whileClosed: boolean): Promise<void> {
  await (await device()).put('outbox', { ...held, refused, whileClosed })
}

/** An entry that may be sent once more: nothing stands against it any longer. */
export async function unmark({ order, bench, entry }: Held): Promise<void> {
  await (await device()).put('outbox', { order, bench, entry })
}

export async function letGo(order: number): Promise<void> {
  await (await device()).delete('outbox', order)
}

export async function draftOf(key: string): Promise<string> {
  return (await (await device()).get('drafts', key)) ?? ''
}

export async function keepDraft(key: string, text: string): Promise<void> {
  const db = await device()
  await (text === '' ? db.delete('drafts', key) : db.put('drafts', text, key))
}
