import { useState } from 'react'
import { Link, useParams } from 'react-router'
import type { Board, Grid } from '@/api'
import { useBoard } from '@/places/board'
import { Failure } from '@/ui'
import { Matching } from './Matching'
import { useImport } from './useImport'

/** Longest file that the server takes. */
const MOST_BYTES = 4 * 1024 * 1024

/** A class's readings and answers from a spreadsheet: its file, its columns, then all of it or nothing. */
export function ImportPage() {
  const run = Number(useParams()['run'])
  const { board } = useBoard(run)
  if (board.isPending) return <p className="py-12 text-slate">Opening the run …</p>
  if (board.isError) return <Failure error={board.error}>The record lists every run.</Failure>
  return <Page board={board.data} />
}

function Page({ board }: { board: Board }) {
  const { run } = board
  const { read } = useImport(run.id)
  const [pasted, setPasted] = useState('')
  const [refused, setRefused] = useState<string | null>(null)
  const [chosen, setChosen] = useState(0)
  const open = (file: Blob, name: string) => {
    setChosen(0)
    const fits = file.size <= MOST_BYTES
    setRefused(fits ? null : `“${name}” is larger than 4 MB: no class fills so much. Nothing was taken.`)
    if (fits) read.mutate(file)
  }
  const sheets = read.data?.sheets ?? []
  const sheet = sheets[chosen]
  return (
    <div className="border-l border-copper pl-4 tablet:pl-8">
      <p className="text-note">
        <Link to={`/record/${run.id}`} className="text-copper-text underline underline-offset-4">
          {run.class}, {run.title}
        </Link>
      </p>
      <h1 className="text-title">From a spreadsheet</h1>
      <p className="mb-4 max-w-[44rem] text-slate">
        One row for each group or student, one column for each reading or answer. Say what the columns are;
        all cells are taken, or none.
      </p>
      <div className="mb-4 flex flex-wrap items-start gap-x-10 gap-y-3">
        <label className="text-note text-slate">
          <span className="mb-0.5 block">a file: XLSX, ODS, CSV</span>
          <input
            type="file"
            accept=".xlsx,.ods,.csv,.tsv,.txt"
            className="field w-72"
            onChange={(event) => {
              const file = event.target.files?.[0]
              if (file) open(file, file.name)
              event.target.value = ''
            }}
          />
        </label>
        <form
          className="min-w-0 flex-1 text-note text-slate"
          onSubmit={(event) => {
            event.preventDefault()
            open(new Blob([pasted]), 'what you pasted')
          }}
        >
          <label>
            <span className="mb-0.5 block">or cells pasted from one</span>
            <textarea
              className="field w-full max-w-[32rem] text-body"
              rows={2}
              value={pasted}
              onChange={(event) => {
                setPasted(event.target.value)
              }}
            />
          </label>
          <button type="submit" className="action mt-1 block" disabled={pasted.trim() === ''}>
            Show the cells
          </button>
        </form>
      </div>
      {refused !== null && <Failure error={new Error(refused)} />}
      {read.isError && <Failure error={read.error} />}
      {sheets.length > 1 && (
        <label className="mb-3 flex flex-wrap items-baseline gap-3 text-note text-slate">
          sheet
          <select
            className="field"
            value={chosen}
            onChange={(event) => {
              setChosen(Number(event.target.value))
            }}
          >
            {sheets.map((s, i) => (
              <option key={s.name} value={i}>
                {s.name}
              </option>
            ))}
          </select>
        </label>
      )}
      {sheet && <Cut sheet={sheet} />}
      {sheet && <Matching key={`${read.submittedAt} ${chosen}`} board={board} sheet={sheet} />}
    </div>
  )
}

function Cut({ sheet }: { sheet: Grid }) {
  if (!sheet.cut) return null
  return (
    <p role="status" className="mb-3 border-l-4 border-amber pl-3 text-amber-text">
      This sheet is very long: only its first {sheet.rows.length} rows are read.
    </p>
  )
}
