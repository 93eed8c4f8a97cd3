import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { client, unwrapped, type Board, type GroupPage } from '@/api'
import { dayAndTime, Failure, Unit } from '@/ui'
import { waitingWords } from '@/words'
import { attention } from '../attention'
import { columnsOf } from '../columns'
import { TellForm } from '../TellForm'
import { useBoard } from '../useBoard'
import { Borrow } from './Borrow'
import { Photos } from './Photos'
import { Readings } from './Readings'
import { Timeline } from './Timeline'
import { useAction, useGroup } from './useGroup'

/** One group: what it has entered, in which order, who it is; here an instructor enters, corrects and takes out. */
export function GroupPlace() {
  const params = useParams()
  const run = Number(params['run'])
  const group = Number(params['group'])
  const { board } = useBoard(run)
  const page = useGroup(run, group)
  if (board.isPending || page.isPending) return <p className="py-12 text-slate">Opening their page …</p>
  if (board.isError) return <Failure error={board.error}>The shelf has the list of runs.</Failure>
  if (page.isError) return <Failure error={page.error}>The board has the groups that there are.</Failure>
  return <Group key={group} board={board.data} page={page.data} />
}

function Group({ board, page }: { board: Board; page: GroupPage }) {
  const { row } = page
  const run = board.run.id
  const notes = attention(board, columnsOf(board)).filter((n) => n.group === row.group)
  const into = board.rows.find((r) => r.group === row.merged_into)
  return (
    <div className="border-l border-copper pl-8">
      <p className="flex flex-wrap gap-x-5 text-note print:hidden">
        <Link to={`/board/${run}`} className="text-copper-text underline underline-offset-4">
          the board of {board.run.class}
        </Link>
        <Neighbours board={board} group={row.group} />
      </p>
      <h1 className="text-title">{row.name}</h1>
      <p className="mb-5 text-slate">
        {board.run.title}
        {row.allotted.assignment != null && ` · ${row.allotted.assignment}`}
        {row.allotted.unknown != null && row.allotted.unknown !== row.allotted.assignment && (
          <> · unknown {row.allotted.unknown}</>
        )}
        {page.key != null && <span className="text-copper-text"> · it is {page.key}</span>}
        {into && ` · goes on at the bench of ${into.name}`}
      </p>
      <div className="grid gap-x-12 gap-y-8 desk:grid-cols-[minmax(0,1fr)_17rem]">
        <div className="flex min-w-0 flex-col gap-9">
          <Readings board={board} page={page} />
          <Timeline board={board} page={page} />
        </div>
        <aside
          aria-label="about this group"
          className="flex flex-col gap-6 border-l border-copper pl-5 text-note"
        >
          {notes.length > 0 && (
            <section aria-label="to look at">
              <h2 className="mb-1 text-ink">to look at</h2>
              {notes.map((n, i) => (
                <p key={i} className={`py-0.5 ${n.tone === 'wrong' ? 'text-magenta' : 'text-amber-text'}`}>
                  {n.words}
                </p>
              ))}
            </section>
          )}
          {row.outcome.waiting.map((w) => (
            <p key={w.step} className="border-l-4 border-slate pl-3 text-slate">
              {waitingWords(w, page.now)}
            </p>
          ))}
          <Results board={board} page={page} />
          <People page={page} visits={board.run.visits.length} />
          {row.uses.length > 0 && <p className="text-slate">uses {row.uses.join(', ')}</p>}
          <Photos run={run} page={page} steps={board.steps} />
          <Borrow board={board} row={row} trialRun={page.trial_run} />
          <Told run={run} page={page} />
          <Devices run={run} group={row.group} name={row.name} pin={row.pin} />
        </aside>
      </div>
    </div>
  )
}

/** The benches beside it, so that a walk along the benches is a walk along the pages. */
function Neighbours({ board, group }: { board: Board; group: number }) {
  const at = board.rows.findIndex((r) => r.group === group)
  const link = (offset: number, word: string) => {
    const other = board.rows[at + offset]
    return other ? (
      <Link
        to={`/board/${board.run.id}/groups/${other.group}`}
        className="text-copper-text underline underline-offset-4"
      >
        {word} {other.name}
      </Link>
    ) : null
  }
  return (
    <>
      {link(-1, 'before it:')}
      {link(1, 'after it:')}
    </>
  )
}

function Results({ board, page }: { board: Board; page: GroupPage }) {
  return (
    <section aria-label="results">
      <h2 className="mb-1 text-ink">recomputed</h2>
      <dl>
        {board.results
          .filter((r) => r.answer !== 'words')
          .map((r) => {
            const accepted = page.accepted[r.name]
            return (
              <div key={r.name} className="flex justify-between gap-3 py-0.5">
                <dt className="text-slate">{r.label}</dt>
                <dd className="text-right whitespace-nowrap">
                  <Recomputed page={page} result={r} />
                  {accepted !== undefined && (
                    <span className="block text-copper-text">accepted {accepted}</span>
                  )}
                </dd>
              </div>
            )
          })}
      </dl>
    </section>
  )
}

/** What their readings come to: a number with its unit, or the reagent that runs out. */
function Recomputed({ page, result }: { page: GroupPage; result: Board['results'][number] }) {
  const { outcome } = page.row
  const state = outcome.results.find((o) => o.name === result.name)?.state
  if (state?.kind !== 'value') return <span className="text-slate">not yet</span>
  if (result.answer === 'limiting') {
    return <span className="text-body">{outcome.limiting?.limits ?? 'not yet'}</span>
  }
  return (
    <span className="font-mono text-body">
      {state.text}
      <Unit of={state.unit} />
    </span>
  )
}

function People({ page, visits }: { page: GroupPage; visits: number }) {
  if (page.people.length === 0) return null
  return (
    <section aria-label="people">
      <h2 className="mb-1 text-ink">who</h2>
      <ul>
        {page.people.map((p) => (
          <li key={`${p.person} ${p.visit}`}>
            {p.name}
            {visits > 1 && p.visit > 1 && <span className="text-slate"> from lesson {p.visit}</span>}
          </li>
        ))}
      </ul>
    </section>
  )
}

/** A device that is lost, or in other hands: all of the group's are signed out, and it gets another PIN. */
function Devices({ run, group, name, pin }: { run: number; group: number; name: string; pin: string }) {
  const out = useAction(run, group, () =>
    unwrapped(
      client.DELETE('/api/v1/runs/{run}/groups/{group}/devices', { params: { path: { run, group } } }),
    ),
  )
  return (
    <section aria-label="devices">
      <h2 className="mb-1 text-ink">devices</h2>
      <p className="text-slate">
        Another one joins with the PIN <span className="font-mono text-ink">{pin}</span>.
      </p>
      <button
        type="button"
        className="min-h-6 text-copper-text underline underline-offset-4"
        disabled={out.isPending}
        onClick={() => {
          out.mutate(undefined)
        }}
      >
        sign {name}’s devices out
      </button>
      {out.isSuccess && (
        <p role="status" className="text-teal">
          Signed out; the PIN is a new one. What they hold is sent when they join again.
        </p>
      )}
      {out.isError && <Failure error={out.error} />}
    </section>
  )
}

/** What they were told, and whether they have read it. */
function Told({ run, page }: { run: number; page: GroupPage }) {
  const [open, setOpen] = useState(false)
  return (
    <section aria-label="messages">
      <h2 className="mb-1 text-ink">told</h2>
      {page.messages.length === 0 && <p className="text-slate">Nothing yet.</p>}
      <ul className="mb-1">
        {page.messages.map((m) => (
          <li key={m.at} className="py-0.5">
            {m.text}{' '}
            <span className="text-slate">
              {m.from}, {dayAndTime(m.at)}
              {m.to_all && ', to all'}
              {m.heard ? ', read' : ', not read yet'}
            </span>
          </li>
        ))}
      </ul>
      {open ? (
        <TellForm
          run={run}
          to={page.row.group}
          onSent={() => {
            setOpen(false)
          }}
        />
      ) : (
        <button
          type="button"
          className="min-h-6 text-copper-text underline underline-offset-4"
          onClick={() => {
            setOpen(true)
          }}
        >
          tell {page.row.name} something
        </button>
      )}
    </section>
  )
}
