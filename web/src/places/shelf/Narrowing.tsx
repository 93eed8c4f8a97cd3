import type { PracticalHead } from '@/api'
import { Tick } from '@/ui'
import { choices, ORDERS, type Narrowed, type Order } from './order'

const MINUTES = [45, 60, 90, 120]

/** In which order the library stands, and what of it is shown. */
export function Narrowing({
  practicals,
  to,
  order,
  onNarrow,
  onOrder,
}: {
  practicals: readonly PracticalHead[]
  to: Narrowed
  order: Order
  onNarrow: (to: Narrowed) => void
  onOrder: (order: Order) => void
}) {
  const away = practicals.filter((p) => p.archived).length
  return (
    <div className="mb-2 flex flex-wrap items-center gap-x-5 gap-y-1 text-note text-slate">
      <Choice
        label="order"
        value={order}
        options={ORDERS.map((o) => [o, `by ${o}`])}
        onChoose={(v) => {
          onOrder(ORDERS.find((o) => o === v) ?? 'title')
        }}
      />
      <Choice
        label="kind"
        value={to.kind}
        options={[
          ['', 'every kind'],
          ...choices(practicals, (p) => p.kind).map((k): [string, string] => [k, k]),
        ]}
        onChoose={(kind) => {
          onNarrow({ ...to, kind })
        }}
      />
      <Choice
        label="level"
        value={to.level}
        options={[
          ['', 'every level'],
          ...choices(practicals, (p) => p.level).map((l): [string, string] => [l, l]),
        ]}
        onChoose={(level) => {
          onNarrow({ ...to, level })
        }}
      />
      <Choice
        label="time at the bench"
        value={to.within === null ? '' : String(to.within)}
        options={[
          ['', 'any length'],
          ...MINUTES.map((m): [string, string] => [String(m), `within ${m} min`]),
        ]}
        onChoose={(v) => {
          onNarrow({ ...to, within: v === '' ? null : Number(v) })
        }}
      />
      {away > 0 && (
        <Tick
          ticked={to.archived}
          onTick={(archived) => {
            onNarrow({ ...to, archived })
          }}
        >
          {away} archived
        </Tick>
      )}
    </div>
  )
}

function Choice({
  label,
  value,
  options,
  onChoose,
}: {
  label: string
  value: string
  options: readonly (readonly [string, string])[]
  onChoose: (value: string) => void
}) {
  return (
    <select
      aria-label={label}
      className="field"
      value={value}
      onChange={(event) => {
        onChoose(event.target.value)
      }}
    >
      {options.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </select>
  )
}
