import { Link } from 'react-router'
import type { Board, Row } from '@/api'
import { columnWidths, dayAndTime, Reading, setUnit, Unit, useServerClock } from '@/ui'
import { deviationWords, runWaitWords } from '@/words'
import { due, leftToWait, type Note } from './attention'
import type { Spot } from './BoardTable'
import { lastOf, type Column } from './columns'
import { DueList } from './DueList'

/** The margin leaf: what wants a look; or, for the chosen value, where it comes from. */
export function MarginLeaf({
  board,
  columns,
  notes,
  spot,
  onSpot,
}: {
  board: Board
  columns: readonly Column[]
  notes: readonly Note[]
  spot: Spot | null
  onSpot: (spot: Spot | null) => void
}) {
  const now = useServerClock(board.now)
  const row = board.rows.find((r) => r.group === spot?.group)
  const column = columns.find((c) => c.key === spot?.key)
  return (
    <aside aria-label="margin" className="border-l border-copper pl-5 max-desk:mt-8">
      <DueList due={due(board, now)} />
      {row && column ? (
        <Provenance
          board={board}
          row={row}
          column={column}
          notes={notes}
          onClose={() => {
            onSpot(null)
          }}
        />
      ) : (
        <>
          <h2 className="mb-3 text-note text-ink">to look at</h2>
          {notes.length === 0 && <p className="text-note text-slate">Nothing stands out.</p>}
          <ul className="flex flex-col gap-4">
            {notes.map((note, i) => (
              <li key={i}>
                <button
                  type="button"
                  className="block w-full text-left text-note hover:bg-copper-wash"
                  onClick={() => {
                    onSpot(note)
                  }}
                >
                  <b
                    className={`font-semibold ${note.tone === 'wrong' ? 'text-magenta' : 'text-amber-text'}`}
                  >
                    {note.name}
                  </b>{' '}
                  <span className="text-slate">{note.words}</span>
                </button>
              </li>
            ))}
          </ul>
          <Waits board={board} now={now} />
          <Departures board={board} />
        </>
      )}
    </aside>
  )
}

/** What waits and needs nobody, gathered by step, with the lesson at which it is gone on with. */
function Waits({ board, now }: { board: Board; now: number }) {
  const waits = leftToWait(board)
  if (waits.length === 0) return null
  return (
    <section className="mt-5 text-note">
      <h2 className="mb-1 text-copper-text">waiting</h2>
      <ul>
        {waits.map((w) => (
          <li key={w.step} className="py-0.5 text-slate">
            {runWaitWords(w, board.run.visits, now)}
          </li>
        ))}
      </ul>
    </section>
  )
}

/** What was done otherwise than planned, by group. */
function Departures({ board }: { board: Board }) {
  const told = board.rows.flatMap((row) => row.deviations.map((d) => ({ row, d })))
  if (told.length === 0) return null
  return (
    <section className="mt-5 text-note">
      <h2 className="mb-1 text-copper-text">incidents</h2>
      <ul>
        {told.map(({ row, d }) => (
          <li key={d.nr} className="py-0.5 text-slate">
            <b className="font-semibold text-ink">{row.name}</b> {deviationWords(d, board.materials)}
          </li>
        ))}
      </ul>
    </section>
  )
}

/** Everything that stands in one column of a group: the weighings and the burette of a trial, the points of a series. */
function AllOf({ board, row, slots }: { board: Board; row: Row; slots: readonly string[] }) {
  const standing = slots.flatMap((s) => {
    const entered = row.readings[s]
    const spec = board.readings.find((r) => r.symbol === s)
    return entered && spec ? [{ entered, spec }] : []
  })
  const widths = columnWidths(standing.map((s) => s.entered.text))
  return (
    <span className="mt-2 block">
      {standing.slice(-12).map(({ entered, spec }) => (
        <span key={spec.symbol} className="flex justify-between gap-2">
          <span className="text-slate">{spec.short}</span>
          <span className="whitespace-nowrap">
            {entered.struck.map((s, i) => (
              <s key={i} className="mr-1 font-mono text-slate">
                {s.text}
              </s>
            ))}
            <Reading text={entered.text} {...widths} />
            <Unit of={entered.unit} />
          </span>
        </span>
      ))}
    </span>
  )
}

function Provenance({
  board,
  row,
  column,
  notes,
  onClose,
}: {
  board: Board
  row: Row
  column: Column
  notes: readonly Note[]
  onClose: () => void
}) {
  const reading = board.readings.find((r) => r.symbol === column.key)
  const place = column.kind === 'reading' ? (lastOf(row, column.slots) ?? column.key) : column.key
  const entered = column.kind === 'reading' ? row.readings[place] : row.answers[place]
  const outcome = row.outcome.results.find((r) => r.name === column.key)
  const here = notes.filter((n) => n.group === row.group && n.key === column.key)
  return (
    <div className="flex flex-col gap-4 text-note">
      <div>
        <h2 className="text-body">{row.name}</h2>
        <p className="text-slate">{column.label}</p>
      </div>
      {outcome?.state.kind === 'value' && (
        <p>
          <span className="text-slate">recomputed</span>
          <span className="block font-mono text-lead">
            {outcome.state.text}
            <Unit of={outcome.state.unit} />
          </span>
          {outcome.state.expanded && (
            <span className="text-slate">
              U = {outcome.state.expanded}
              <Unit of={outcome.state.unit} />, k = 2
            </span>
          )}
        </p>
      )}
      {entered && (
        <p>
          <span className="text-slate">{column.kind === 'reading' ? 'as typed' : 'their answer'}</span>
          {entered.struck.map((s, i) => (
            <span key={i} className="block">
              <s className="font-mono text-slate">{s.text}</s>{' '}
              <span className="text-slate">{dayAndTime(s.at)}</span>
              <span className="block text-copper-text">{s.reason ?? 'entered again'}</span>
            </span>
          ))}
          <span className="block font-mono text-lead">
            {entered.text}
            <Unit of={entered.unit} />
          </span>
          <span className="text-slate">
            {entered.about && 'about '}
            {dayAndTime(entered.at)}
            {reading && `, ${entered.sent ? 'sent by ' : ''}${entered.on ?? reading.instrument}`}
            {entered.confirmed && ', checked by the group'}
            {entered.by_instructor && ', entered by an instructor'}
            {entered.borrowed != null && `, borrowed from ${entered.borrowed}`}
          </span>
          {entered.steps.length > 0 && (
            <span className="block text-slate">
              on the way <span className="font-mono">{entered.steps.join(', ')}</span>
            </span>
          )}
          {column.kind === 'reading' && column.slots.length > 1 && (
            <AllOf board={board} row={row} slots={column.slots} />
          )}
        </p>
      )}
      {reading && (
        <p className="text-slate">
          expected {reading.range.join(' to ')} {setUnit(reading.unit)}
        </p>
      )}
      {here.map((n, i) => (
        <p key={i} className={n.tone === 'wrong' ? 'text-magenta' : 'text-amber-text'}>
          {n.words}
        </p>
      ))}
      {row.uses.length > 0 && <p className="text-slate">uses {row.uses.join(', ')}</p>}
      <p className="flex flex-wrap gap-x-5">
        <Link
          className="text-copper-text underline underline-offset-4"
          to={`/board/${board.run.id}/groups/${row.group}`}
        >
          all of {row.name}
        </Link>
        {column.kind === 'result' && column.asked && (
          <Link
            className="text-copper-text underline underline-offset-4"
            to={`/check/${board.run.id}/${column.key}?group=${row.group}`}
          >
            worked solution
          </Link>
        )}
        <button
          type="button"
          className="min-h-6 text-copper-text underline underline-offset-4"
          onClick={onClose}
        >
          back to the list
        </button>
      </p>
    </div>
  )
}
