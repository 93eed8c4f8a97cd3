import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react'
import { v7 as uuidv7 } from 'uuid'
import { client, unwrapped, type Answerer, type CheckView, type ResultSpec } from '@/api'
import { StateMark } from '@/ui'
import { pasted, readCell } from './paper'

/** What became of a cell. */
type Fate = { kind: 'keeping' } | { kind: 'kept' } | { kind: 'refused'; why: string }

/** Answers that are on paper, typed in for each group or student: a table like the pile of sheets beside it. */
export function Paper({ view }: { view: CheckView }) {
  const queries = useQueryClient()
  const [typed, setTyped] = useState<Record<string, string>>({})
  const [fates, setFates] = useState<Record<string, Fate>>({})
  // A cell that is left by Enter is left once more when the next one is chosen.
  const sent = useRef<Record<string, string>>({})
  const fate = (cell: string, is: Fate) => {
    setFates((known) => ({ ...known, [cell]: is }))
  }
  const enter = useMutation({
    mutationFn: ({ who, spec, text }: { who: Answerer; spec: ResultSpec; text: string }) => {
      const standing = view.sheets.find((s) => s.key === who.key)?.answers[spec.name]
      return unwrapped(
        client.POST('/api/v1/runs/{run}/groups/{group}/entries', {
          params: { path: { run: view.run.id, group: who.group } },
          body: {
            id: uuidv7(),
            entry: {
              kind: 'answer',
              result: spec.name,
              ...readCell(text, spec),
              ...(who.person != null && { by: who.person }),
            },
            ...(standing && { supersedes: standing.id, reason: 'from their paper' }),
          },
        }),
      )
    },
    onSettled: () => queries.invalidateQueries({ queryKey: ['check', view.run.id] }),
  })
  const standing = (who: Answerer, spec: ResultSpec) => {
    const answer = view.sheets.find((s) => s.key === who.key)?.answers[spec.name]
    if (!answer) return ''
    const unit = answer.unit === '1' ? '' : answer.unit
    return spec.answer === 'limiting'
      ? (view.labels[answer.text] ?? answer.text)
      : `${answer.text} ${unit}`.trim()
  }
  const keep = (who: Answerer, spec: ResultSpec, text: string) => {
    const cell = cellOf(who, spec)
    if (text.trim() === '' || text === standing(who, spec) || text === sent.current[cell]) return
    sent.current[cell] = text
    fate(cell, { kind: 'keeping' })
    enter.mutateAsync({ who, spec, text }).then(
      () => {
        fate(cell, { kind: 'kept' })
      },
      (error: unknown) => {
        sent.current[cell] = ''
        fate(cell, { kind: 'refused', why: error instanceof Error ? error.message : 'not kept' })
      },
    )
  }
  const onPaste = (event: ClipboardEvent, row: number, column: number) => {
    const cells = pasted(event.clipboardData.getData('text'))
    if (cells.length < 2 && (cells[0]?.length ?? 0) < 2) return
    event.preventDefault()
    for (const [i, line] of cells.entries()) {
      for (const [j, text] of line.entries()) {
        const [who, spec] = [view.answerers[row + i], view.results[column + j]]
        if (!who || !spec) continue
        setTyped((known) => ({ ...known, [cellOf(who, spec)]: text }))
        keep(who, spec, text)
      }
    }
  }
  const refused = Object.values(fates).filter((f) => f.kind === 'refused').length
  return (
    <>
      <p className="mb-3 max-w-prose text-slate">
        Enter keeps a cell and goes to the next sheet. <span className="font-mono">6.16</span> is in the unit
        at the head; <span className="font-mono">6160 mg</span> says its own;{' '}
        <span className="font-mono">6.16 -</span> stands for a paper without a unit. Cells copied from a
        spreadsheet can be pasted.
      </p>
      {view.answerers.length === 0 && (
        <p className="border-y border-rule py-4 text-slate">
          Each student answers here, and nobody sits at a bench yet: seat them on the board, under people.
        </p>
      )}
      <div className="overflow-x-auto">
        <table className="w-full border-collapse">
          <caption className="sr-only">answers from paper</caption>
          <thead>
            <tr className="border-b border-ink align-bottom text-note">
              <th scope="col" className="py-2 pr-4 text-left font-normal">
                sheet
              </th>
              {view.results.map((r) => (
                <th key={r.name} scope="col" className="px-2 py-2 text-left font-normal">
                  {r.label}
                  <span className="block text-slate">{headOf(r)}</span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {view.answerers.map((who, row) => (
              <tr key={who.key} className="border-b border-rule align-top">
                <th scope="row" className="py-3.5 pr-4 text-left font-normal whitespace-nowrap">
                  {who.name}
                </th>
                {view.results.map((spec, column) => {
                  const cell = cellOf(who, spec)
                  return (
                    <Cell
                      key={spec.name}
                      id={`paper ${row} ${column}`}
                      label={`${spec.label}, ${who.name}`}
                      wide={spec.answer === 'words'}
                      text={typed[cell] ?? standing(who, spec)}
                      fate={fates[cell]}
                      onText={(text) => {
                        setTyped({ ...typed, [cell]: text })
                      }}
                      onKeep={() => {
                        keep(who, spec, typed[cell] ?? '')
                      }}
                      onGo={(by) => {
                        document.getElementById(`paper ${row + by} ${column}`)?.focus()
                      }}
                      onPaste={(event) => {
                        onPaste(event, row, column)
                      }}
                    />
                  )
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {refused > 0 && (
        <p role="status" className="mt-3 text-magenta">
          {refused === 1 ? 'One cell was' : `${refused} cells were`} not kept. What was typed is still there.
        </p>
      )}
    </>
  )
}

const cellOf = (who: Answerer, spec: ResultSpec) => `${who.key} ${spec.name}`

function headOf(spec: ResultSpec): string {
  switch (spec.answer) {
    case 'number':
      return spec.unit === '1' ? 'a plain number' : spec.unit
    case 'formula':
      return 'a formula'
    case 'limiting':
      return 'the reagent that limits'
    case 'words':
      return 'in words'
  }
}

function Cell({
  id,
  label,
  wide,
  text,
  fate,
  onText,
  onKeep,
  onGo,
  onPaste,
}: {
  id: string
  label: string
  wide: boolean
  text: string
  fate: Fate | undefined
  onText: (text: string) => void
  onKeep: () => void
  /** To the cell so many lines further. */
  onGo: (by: number) => void
  onPaste: (event: ClipboardEvent) => void
}) {
  const keys: Record<string, number> = { Enter: 1, ArrowDown: 1, ArrowUp: -1 }
  return (
    <td className="px-2 py-1">
      <span className="flex items-baseline gap-2">
        <input
          id={id}
          aria-label={label}
          aria-invalid={fate?.kind === 'refused'}
          className={`field min-w-24 field-sizing-content aria-invalid:border-magenta ${wide ? 'max-w-80' : 'max-w-48 font-mono'}`}
          value={text}
          maxLength={500}
          autoComplete="off"
          spellCheck={wide}
          onChange={(event) => {
            onText(event.target.value)
          }}
          onBlur={onKeep}
          onKeyDown={(event: KeyboardEvent) => {
            const by = keys[event.key]
            if (by === undefined) return
            event.preventDefault()
            onKeep()
            onGo(by)
          }}
          onPaste={onPaste}
        />
        {fate?.kind === 'keeping' && <StateMark kind="waiting" word="being kept" />}
        {fate?.kind === 'kept' && <StateMark kind="settled" word="kept" />}
        {fate?.kind === 'refused' && <StateMark kind="wrong" word="not kept" />}
      </span>
      {fate?.kind === 'refused' && <span className="block max-w-64 text-note text-magenta">{fate.why}</span>}
    </td>
  )
}
