import { useState, type ReactNode } from 'react'
import type { Instrument, RoomItem } from '@/api'

type OnNew = (item: RoomItem) => void

const KINDS: readonly { kind: Instrument['kind']; name: string; unit: string }[] = [
  { kind: 'balance', name: 'balance', unit: 'g' },
  { kind: 'burette', name: 'burette', unit: 'mL' },
  { kind: 'volumetric-pipette', name: 'one-mark pipette', unit: 'mL' },
  { kind: 'graduated-pipette', name: 'graduated pipette', unit: 'mL' },
  { kind: 'measuring-cylinder', name: 'measuring cylinder', unit: 'mL' },
  { kind: 'syringe', name: 'syringe', unit: 'mL' },
  { kind: 'thermometer', name: 'thermometer', unit: '°C' },
  { kind: 'melting-point', name: 'melting-point apparatus', unit: '°C' },
  { kind: 'ph-meter', name: 'pH meter', unit: '1' },
]

/** A named instrument: what it shows, and how far it can be off. */
export function NewInstrument({ onNew, busy }: { onNew: OnNew; busy: boolean }) {
  const [name, setName] = useState('')
  const [kind, setKind] = useState<Instrument['kind']>('balance')
  const [figures, setFigures] = useState({
    resolution: '0.01',
    tolerance: '0.01',
    repeatability: '0.005',
    capacity: '300',
  })
  const values = Object.entries(figures).map(([key, text]) => [key, Number(text.replace(',', '.'))] as const)
  const sound = name.trim() !== '' && values.every(([, v]) => Number.isFinite(v) && v >= 0)
  const figure = (key: keyof typeof figures, label: string) => (
    <Field label={label}>
      <input
        className="field w-24 font-mono"
        inputMode="decimal"
        value={figures[key]}
        onChange={(e) => {
          setFigures({ ...figures, [key]: e.target.value })
        }}
      />
    </Field>
  )
  return (
    <Form
      label="new instrument"
      ready={sound && !busy}
      onSubmit={() => {
        const unit = KINDS.find((k) => k.kind === kind)?.unit ?? 'g'
        const [resolution = 0, tolerance = 0, repeatability = 0, capacity = 0] = values.map(([, v]) => v)
        onNew({
          sort: 'instrument',
          name: name.trim(),
          kind,
          unit,
          resolution,
          tolerance,
          repeatability,
          capacity,
          sensitivity: 0,
        })
        setName('')
      }}
    >
      <Field label="name">
        <input
          className="field w-40"
          maxLength={60}
          placeholder="Balance 4"
          value={name}
          onChange={(e) => {
            setName(e.target.value)
          }}
        />
      </Field>
      <Field label="kind">
        <select
          className="field"
          value={kind}
          onChange={(e) => {
            setKind(KINDS.find((k) => k.kind === e.target.value)?.kind ?? 'balance')
          }}
        >
          {KINDS.map((k) => (
            <option key={k.kind} value={k.kind}>
              {k.name}, {k.unit === '1' ? 'pH' : k.unit}
            </option>
          ))}
        </select>
      </Field>
      {figure('resolution', 'display step')}
      {figure('tolerance', 'tolerance ±')}
      {figure('repeatability', 'repeatability s')}
      {figure('capacity', 'capacity')}
    </Form>
  )
}

/** A bottle that groups take from. */
export function NewBottle({ onNew, busy }: { onNew: OnNew; busy: boolean }) {
  const [name, setName] = useState('')
  const [holds, setHolds] = useState('')
  const [strength, setStrength] = useState('')
  const [measured, setMeasured] = useState('')
  return (
    <Form
      label="new bottle"
      ready={name.trim() !== '' && holds.trim() !== '' && !busy}
      onSubmit={() => {
        const found = measured.trim()
        onNew({
          sort: 'bottle',
          name: name.trim(),
          holds: holds.trim(),
          strength: strength.trim(),
          ...(found !== '' && { measured: found }),
        })
        setName('')
      }}
    >
      <Text label="name" value={name} hint="bottle C" onText={setName} />
      <Text
        label="holds, as the practical names it"
        value={holds}
        hint="sodium hydroxide"
        onText={setHolds}
      />
      <Text label="on its label" value={strength} hint="0.1 mol/L" onText={setStrength} />
      <Text label="measured, if it was" value={measured} hint="0.0973 ± 0.0003 mol/L" onText={setMeasured} />
    </Form>
  )
}

/** A vessel weighed beforehand, by its tag. */
export function NewVessel({ onNew, busy }: { onNew: OnNew; busy: boolean }) {
  const [vessel, setVessel] = useState('')
  const [tag, setTag] = useState('')
  const [mass, setMass] = useState('')
  return (
    <Form
      label="new vessel"
      ready={[vessel, tag, mass].every((t) => t.trim() !== '') && !busy}
      onSubmit={() => {
        onNew({ sort: 'vessel', vessel: vessel.trim(), tag: tag.trim(), mass: mass.trim() })
        setTag('')
        setMass('')
      }}
    >
      <Text label="vessel, as the practical names it" value={vessel} hint="crucible" onText={setVessel} />
      <Text label="tag" value={tag} hint="7" onText={setTag} />
      <Text label="mass in g, as read" value={mass} hint="31.482" onText={setMass} />
    </Form>
  )
}

function Form({
  label,
  ready,
  onSubmit,
  children,
}: {
  label: string
  ready: boolean
  onSubmit: () => void
  children: ReactNode
}) {
  return (
    <form
      aria-label={label}
      className="flex flex-wrap items-end gap-x-4 gap-y-2 text-note"
      onSubmit={(event) => {
        event.preventDefault()
        if (ready) onSubmit()
      }}
    >
      {children}
      <button type="submit" className="action" disabled={!ready}>
        put it into the room
      </button>
    </form>
  )
}

function Field({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className="flex flex-col text-slate">
      {label}
      {children}
    </label>
  )
}

function Text({
  label,
  value,
  hint,
  onText,
}: {
  label: string
  value: string
  hint: string
  onText: (text: string) => void
}) {
  return (
    <Field label={label}>
      <input
        className="field w-44"
        maxLength={60}
        placeholder={hint}
        value={value}
        onChange={(e) => {
          onText(e.target.value)
        }}
      />
    </Field>
  )
}
