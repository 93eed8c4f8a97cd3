import { useState } from 'react'
import { useQuery } from '@tanstack/react-query'
import { client, unwrapped, type Pan } from '@/api'
import { Failure, setNumber, StateMark } from '@/ui'
import { PracticeHead } from '../PracticeHead'
import { ReadPad } from '../ReadPad'
import { useSeed } from '../useSeed'
import { Display } from './Display'
import { THINGS } from './things'
import { useBalance } from './useBalance'

/** What is to be weighed, in order. */
const TO_WEIGH: readonly Pan[] = ['full-boat', 'empty-boat', 'hot-crucible']
/** A press of the key passes so much time, s. */
const COOLS = 120

/** A boat by difference, and a crucible that is still hot. */
export function BalancePage() {
  const { seed, another } = useSeed()
  return (
    <>
      <PracticeHead title="Weigh" seed={seed} onAnother={another} />
      <Weighing key={seed} seed={seed} onAnother={another} />
    </>
  )
}

function Weighing({ seed, onAnother }: { seed: number; onAnother: () => void }) {
  const balance = useBalance(seed)
  const [on, setOn] = useState<Pan | null>(null)
  const [open, setOpen] = useState(false)
  const [read, setRead] = useState<readonly string[]>([])
  const next = TO_WEIGH[read.length]
  if (balance.error) return <Failure error={balance.error} />
  if (!balance.shown) return <p className="py-12 text-slate">Switching the balance on …</p>
  return (
    <div className="grid gap-x-10 gap-y-6 desk:grid-cols-[minmax(0,27rem)_minmax(0,1fr)]">
      <section aria-label="the balance">
        <Display shown={balance.shown} on={on} open={open} />
        <div className="mt-3 grid grid-cols-2 gap-1.5">
          {TO_WEIGH.map((what) => (
            <Key
              key={what}
              on={on === what}
              onPress={() => {
                balance.act({ kind: 'put', what })
                setOn(what)
              }}
            >
              {`Put on: ${THINGS[what]}`}
            </Key>
          ))}
          <Key
            on={false}
            onPress={() => {
              balance.act({ kind: 'take-off' })
              setOn(null)
            }}
          >
            Take it off
          </Key>
          <Key
            on={open}
            onPress={() => {
              balance.act({ kind: 'doors', open: !open })
              setOpen(!open)
            }}
          >
            {open ? 'Close the doors' : 'Open the doors'}
          </Key>
          <Key
            on={false}
            onPress={() => {
              balance.act({ kind: 'brush' })
            }}
          >
            Brush the pan
          </Key>
          <Key
            on={false}
            onPress={() => {
              balance.act({ kind: 'tare' })
            }}
          >
            Tare
          </Key>
          <Key
            on={false}
            onPress={() => {
              balance.act({ kind: 'wait', seconds: COOLS })
            }}
          >
            Wait two minutes
          </Key>
        </div>
      </section>
      <section aria-label="what you read">
        {next !== undefined && (
          <ReadPad
            key={next}
            label={`mass of the ${THINGS[next]}`}
            unit="g, 3 decimals, as the display shows"
            keep="Keep"
            onRead={(text) => {
              setRead([...read, text])
            }}
          />
        )}
        {read.length > 0 && <Told seed={seed} read={read} />}
        {next === undefined && (
          <button type="button" className="action mt-3" onClick={onAnother}>
            Another balance
          </button>
        )}
      </section>
    </div>
  )
}

function Key({ on, onPress, children }: { on: boolean; onPress: () => void; children: string }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      className="min-h-14 border border-rule bg-sheet px-2 active:bg-copper-wash aria-pressed:border-2 aria-pressed:border-teal aria-pressed:bg-teal-wash"
      onClick={onPress}
    >
      {children}
    </button>
  )
}

/** What is really there: of the solid by difference, of the crucible by itself. */
function Told({ seed, read }: { seed: number; read: readonly string[] }) {
  const told = useQuery({
    queryKey: ['practice', 'balance-told', seed],
    staleTime: Infinity,
    queryFn: () =>
      unwrapped(client.POST('/api/v1/practice/balance', { body: { seed, acts: [], told: [...TO_WEIGH] } })),
  })
  const [full, empty, crucible] = told.data?.told ?? []
  const [f, e, c] = read.map(Number)
  if (full === undefined || empty === undefined || crucible === undefined) return null
  return (
    <dl className="mt-4 max-w-md">
      {f !== undefined && e !== undefined && (
        <Row name="the solid, by difference" found={f - e} really={full - empty} />
      )}
      {c !== undefined && <Row name="the crucible" found={c} really={crucible} />}
    </dl>
  )
}

/** Two steps of the display are no fault of a difference. */
const FAIR = 0.0025

function Row({ name, found, really }: { name: string; found: number; really: number }) {
  const off = found - really
  const fair = Math.abs(off) <= FAIR
  return (
    <div className="border-t border-rule py-2">
      <dt className="flex items-baseline gap-3 font-semibold">
        <StateMark kind={fair ? 'settled' : 'doubtful'} /> {name}
      </dt>
      <dd>
        you have <span className="font-mono">{setNumber(found.toFixed(3))} g</span>, there is{' '}
        <span className="font-mono">{setNumber(really.toFixed(3))} g</span>
        {!fair && (
          <span className="block text-amber-text">
            {off < 0
              ? `${Math.abs(off).toFixed(3)} g low: was it still hot, or the display not stable?`
              : `${off.toFixed(3)} g high: was the pan clean and the display at 0.000?`}
          </span>
        )}
      </dd>
    </div>
  )
}
