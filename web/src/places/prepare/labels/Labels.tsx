import { useState, type ReactNode } from 'react'
import type { PreparationView } from '@/api'
import { Wide, PrintButton } from '@/ui'
import { Count } from '../Choices'
import { BottleLabel, VialLabel, WasteLabel } from './Label'
import { SIZES, type SheetSize } from './sheetSizes'

const KINDS = ['bottles', 'vials of unknowns', 'waste bottles'] as const

type Kind = (typeof KINDS)[number]

const NOTHING: Record<Kind, string> = {
  bottles: 'Nothing of this practical goes into bottles.',
  'vials of unknowns': 'No group has been given an unknown.',
  'waste bottles': 'The practical says of nothing where it is thrown away.',
}

/** Labels on sheets of any size, from any position of a begun one. */
export function Labels({ of }: { of: PreparationView }) {
  const [size, setSize] = useState<SheetSize>(SIZES[0])
  const [kind, setKind] = useState<Kind>('bottles')
  const [from, setFrom] = useState(1)
  const [each, setEach] = useState(1)
  const labels = labelsOf(of, kind).flatMap(({ key, label }) =>
    Array.from({ length: each }, (_, n) => ({ key: `${key} ${n}`, label })),
  )
  const skipped = Math.min(Math.max(from, 1), size.columns * size.rows) - 1
  return (
    <div>
      <div className="mb-5 flex flex-wrap items-end gap-4 print:hidden">
        <Choice label="labels for" value={kind} of={KINDS} onChoose={setKind} />
        <Choice
          label="sheet"
          value={size.name}
          of={SIZES.map((s) => s.name)}
          onChoose={(name) => {
            setSize(SIZES.find((s) => s.name === name) ?? SIZES[0])
          }}
        />
        <Count key={`from ${from}`} label="from position" value={from} onChosen={setFrom} />
        <Count
          key={`each ${each}`}
          label="of each"
          value={each}
          onChosen={(n) => {
            setEach(Math.min(Math.max(n, 1), 24))
          }}
        />
        <PrintButton words="Print them" />
      </div>
      {labels.length === 0 && <p className="text-slate">{NOTHING[kind]}</p>}
      <Wide label="the sheet">
        <ul
          aria-label="labels to print"
          className="grid print:gap-0"
          style={{
            gridTemplateColumns: `repeat(${size.columns}, ${size.width}mm)`,
            gridAutoRows: `${size.height}mm`,
          }}
        >
          {Array.from({ length: skipped }, (_, i) => (
            <li
              key={`empty ${i}`}
              aria-hidden="true"
              className="border border-dotted border-rule print:border-0"
            />
          ))}
          {labels.map(({ key, label }) => (
            <li
              key={key}
              className="flex flex-col overflow-hidden border border-pencil p-2 text-note print:border-0"
            >
              {label}
            </li>
          ))}
        </ul>
      </Wide>
    </div>
  )
}

/** One label of each, in the order of the practical. */
function labelsOf(of: PreparationView, kind: Kind): { key: string; label: ReactNode }[] {
  const { materials, trays, waste } = of.preparation
  switch (kind) {
    case 'bottles':
      return materials
        .filter((m) => m.unit === 'mL' && m.total != null)
        .map((m) => ({ key: m.symbol, label: <BottleLabel of={of} need={m} /> }))
    case 'vials of unknowns':
      return trays.flatMap((t) =>
        t.unknown == null
          ? []
          : [{ key: String(t.group), label: <VialLabel code={t.unknown} className={of.class} /> }],
      )
    case 'waste bottles':
      return waste.map((w) => ({ key: w.group, label: <WasteLabel waste={w} /> }))
  }
}

function Choice<T extends string>({
  label,
  value,
  of,
  onChoose,
}: {
  label: string
  value: T
  of: readonly T[]
  onChoose: (value: T) => void
}) {
  return (
    <label className="flex flex-col gap-1">
      <span className="text-note text-slate">{label}</span>
      <select
        className="field"
        value={value}
        onChange={(event) => {
          const chosen = of.find((o) => o === event.target.value)
          if (chosen !== undefined) onChoose(chosen)
        }}
      >
        {of.map((o) => (
          <option key={o}>{o}</option>
        ))}
      </select>
    </label>
  )
}
