import { useState } from 'react'
import type { StockUnit, StockView } from '@/api'
import { Failure } from '@/ui'
import { amount } from './amount'
import { useStock } from './useStock'

/** What stands on the shelves of the prep room. */
export function StockPlace() {
  const { stock, put, count, takeOff, list } = useStock()
  if (stock.isPending) return <p className="py-12 text-slate">Looking along the shelves …</p>
  if (stock.isError) return <Failure error={stock.error} />
  return (
    <div className="border-l border-copper pl-4 tablet:pl-8">
      <div className="mb-4 flex flex-wrap items-baseline gap-x-8 gap-y-2">
        <h1 className="text-title">Stock</h1>
        <a
          className="min-h-6 text-copper-text underline underline-offset-4 print:hidden"
          href="/api/v1/stock.csv"
          download
        >
          as CSV
        </a>
        <label className="min-h-6 cursor-pointer text-copper-text underline underline-offset-4 focus-within:outline-3 focus-within:outline-copper print:hidden">
          from a list
          <input
            type="file"
            accept=".csv,text/csv"
            className="sr-only"
            onChange={(event) => {
              const file = event.target.files?.[0]
              event.target.value = ''
              if (file) void file.text().then(list.mutate)
            }}
          />
        </label>
      </div>
      {[put, count, takeOff, list].map((m, i) => m.isError && <Failure key={i} error={m.error} />)}
      {stock.data.length === 0 && (
        <p className="border-y border-rule py-4 text-slate">
          Nothing on the shelves yet. Put containers here, or read a list with the columns holds, form,
          amount, unit, place and keep until; what is prepared is then held against them.
        </p>
      )}
      <ul aria-label="containers">
        {stock.data.map((s) => (
          <Container
            key={`${s.id} ${s.changed_at}`}
            of={s}
            onCount={(counted, reason) => {
              count.mutate({ id: s.id, amount: counted, reason })
            }}
            onTakeOff={() => {
              takeOff.mutate(s.id)
            }}
          />
        ))}
      </ul>
      <NewContainer busy={put.isPending} onNew={put.mutate} />
    </div>
  )
}

function Container({
  of,
  onCount,
  onTakeOff,
}: {
  of: StockView
  onCount: (amount: number, reason: string) => void
  onTakeOff: () => void
}) {
  const [open, setOpen] = useState(false)
  const { container } = of
  return (
    <li className="border-t border-rule py-2 last:border-b">
      <div className="grid items-baseline gap-x-6 tablet:grid-cols-[minmax(0,1.3fr)_8rem_minmax(0,1fr)_auto]">
        <p>
          <span className="font-semibold">{container.holds}</span>
          {container.form !== '' && <span className="text-slate"> · {container.form}</span>}
        </p>
        <p className="font-mono text-lead tablet:text-right">{amount(of.amount, container.unit)}</p>
        <p className={of.is_old ? 'text-amber-text' : 'text-slate'}>
          {[container.place, container.keep_until != null && `keeps until ${container.keep_until}`]
            .filter(Boolean)
            .join(' · ')}
          {of.is_old && ': over'}
        </p>
        <p className="flex gap-5 text-note print:hidden">
          <button
            type="button"
            aria-expanded={open}
            aria-label={`count ${container.holds}`}
            className="min-h-6 text-copper-text underline underline-offset-4"
            onClick={() => {
              setOpen(!open)
            }}
          >
            count
          </button>
          <button
            type="button"
            aria-label={`take ${container.holds} off the shelf`}
            className="min-h-6 text-copper-text underline underline-offset-4"
            onClick={onTakeOff}
          >
            take off
          </button>
        </p>
      </div>
      {open && <Counting of={of} onCount={onCount} />}
    </li>
  )
}

function Counting({ of, onCount }: { of: StockView; onCount: (amount: number, reason: string) => void }) {
  const [text, setText] = useState(String(of.amount))
  const [reason, setReason] = useState('')
  const sound = /^\d*\.?\d+$/.test(text.trim())
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        onCount(Number(text), reason)
      }}
    >
      <Field label={`there is now, ${of.container.unit}`} value={text} onChange={setText} mono />
      <Field label="why" value={reason} onChange={setReason} wide />
      <button type="submit" className="action" disabled={!sound || reason.trim() === ''}>
        Keep it
      </button>
    </form>
  )
}

function NewContainer({
  busy,
  onNew,
}: {
  busy: boolean
  onNew: (
    body: {
      container: { holds: string; form: string; unit: StockUnit; place: string; keep_until: string | null }
      amount: number
    },
    after: { onSuccess: () => void },
  ) => void
}) {
  const empty = { holds: '', form: '', amount: '', place: '', keep: '' }
  const [typed, setTyped] = useState(empty)
  const [unit, setUnit] = useState<StockUnit>('g')
  const set = (part: Partial<typeof empty>) => {
    setTyped({ ...typed, ...part })
  }
  const sound = typed.holds.trim() !== '' && /^\d*\.?\d+$/.test(typed.amount.trim())
  return (
    <form
      aria-label="a new container"
      className="mt-8 flex flex-wrap items-end gap-4 print:hidden"
      onSubmit={(event) => {
        event.preventDefault()
        const { holds, form, place, keep } = typed
        onNew(
          {
            container: { holds, form, unit, place, keep_until: keep === '' ? null : keep },
            amount: Number(typed.amount),
          },
          {
            onSuccess: () => {
              setTyped(empty)
            },
          },
        )
      }}
    >
      <Field
        label="what is in it"
        value={typed.holds}
        onChange={(holds) => {
          set({ holds })
        }}
        wide
      />
      <Field
        label="form or strength"
        value={typed.form}
        onChange={(form) => {
          set({ form })
        }}
      />
      <Field
        label="amount"
        value={typed.amount}
        onChange={(amount) => {
          set({ amount })
        }}
        mono
      />
      <label className="flex flex-col gap-1">
        <span className="text-note text-slate">unit</span>
        <select
          className="field"
          value={unit}
          onChange={(event) => {
            setUnit(event.target.value === 'mL' ? 'mL' : 'g')
          }}
        >
          <option>g</option>
          <option>mL</option>
        </select>
      </label>
      <Field
        label="place"
        value={typed.place}
        onChange={(place) => {
          set({ place })
        }}
      />
      <Field
        label="keeps until, 2027-06-30"
        value={typed.keep}
        onChange={(keep) => {
          set({ keep })
        }}
        mono
      />
      <button type="submit" className="action" disabled={!sound || busy}>
        Put it on the shelf
      </button>
    </form>
  )
}

function Field({
  label,
  value,
  onChange,
  wide = false,
  mono = false,
}: {
  label: string
  value: string
  onChange: (value: string) => void
  wide?: boolean
  mono?: boolean
}) {
  return (
    <label className="flex flex-col gap-1">
      <span className="text-note text-slate">{label}</span>
      <input
        className={`field ${wide ? 'w-64' : 'w-36'} ${mono ? 'font-mono' : ''}`}
        maxLength={80}
        value={value}
        onChange={(event) => {
          onChange(event.target.value)
        }}
      />
    </label>
  )
}
