import { useState } from 'react'
import type { MaterialNeed, PreparationView } from '@/api'
import { day, Formula, HazardMark } from '@/ui'
import { Count } from './Choices'
import { SHEETS, type Sheet } from './sheets'

/** Labels for the bottles, on sheets of any size, from any position of a begun one. */
export function Labels({ of }: { of: PreparationView }) {
  const [sheet, setSheet] = useState<Sheet>(SHEETS[0])
  const [from, setFrom] = useState(1)
  const [each, setEach] = useState(1)
  const bottled = of.preparation.materials.filter((m) => m.unit === 'mL' && m.total != null)
  const labels = bottled.flatMap((m) => Array.from({ length: each }, (_, n) => ({ need: m, n })))
  const skipped = Math.min(Math.max(from, 1), sheet.columns * sheet.rows) - 1
  return (
    <div>
      <div className="mb-5 flex flex-wrap items-end gap-4 print:hidden">
        <label className="flex flex-col gap-1">
          <span className="text-note text-slate">sheet</span>
          <select
            className="field"
            value={sheet.name}
            onChange={(event) => {
              setSheet(SHEETS.find((s) => s.name === event.target.value) ?? SHEETS[0])
            }}
          >
            {SHEETS.map((s) => (
              <option key={s.name}>{s.name}</option>
            ))}
          </select>
        </label>
        <Count key={`from ${from}`} label="from position" value={from} onChosen={setFrom} />
        <Count
          key={`each ${each}`}
          label="of each"
          value={each}
          onChosen={(n) => {
            setEach(Math.min(Math.max(n, 1), 24))
          }}
        />
        <button
          type="button"
          className="action"
          onClick={() => {
            window.print()
          }}
        >
          Print them
        </button>
      </div>
      {labels.length === 0 && <p className="text-slate">Nothing of this practical goes into bottles.</p>}
      <ul
        aria-label="bottle labels"
        className="grid print:gap-0"
        style={{
          gridTemplateColumns: `repeat(${sheet.columns}, ${sheet.width}mm)`,
          gridAutoRows: `${sheet.height}mm`,
        }}
      >
        {Array.from({ length: skipped }, (_, i) => (
          <li
            key={`empty ${i}`}
            aria-hidden="true"
            className="border border-dotted border-rule print:border-0"
          />
        ))}
        {labels.map(({ need, n }) => (
          <Label key={`${need.symbol} ${n}`} of={of} need={need} />
        ))}
      </ul>
    </div>
  )
}

function Label({ of, need }: { of: PreparationView; need: MaterialNeed }) {
  const bottle = of.bottles.find((b) => b.holds === need.name && b.made != null)
  return (
    <li className="flex flex-col overflow-hidden border border-pencil p-2 text-note print:border-0">
      <p className="flex items-start justify-between gap-2">
        <span>
          <span className="block text-body font-semibold">{need.name}</span>
          <Formula runs={need.formula} />
        </span>
        <span className="shrink-0">
          {need.pictograms.map((p) => (
            <HazardMark key={p} kind={p} size={26} />
          ))}
        </span>
      </p>
      <p className="text-body font-mono">{bottle?.measured ?? need.form}</p>
      <p className="leading-tight">{need.hazards.join(' ')}</p>
      <p className="mt-auto flex justify-between gap-2">
        <span>{bottle?.made ? `made ${day(bottle.made.at)}, ${bottle.made.by}` : 'made ________'}</span>
        <span>{of.class}</span>
      </p>
    </li>
  )
}
