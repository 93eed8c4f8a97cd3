import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { useParams } from 'react-router'
import { client, told, type Board } from '@/api'
import { clockTime, day, Failure, StateKey, useKeys, useServerClock } from '@/ui'
import { BoardTable, type Spot } from './BoardTable'
import { columnsOf } from './columns'
import { JoinPanel } from './JoinPanel'
import { attention } from './attention'
import { MarginLeaf } from './MarginLeaf'
import { useBoard } from './useBoard'

/** A class at work, live. */
export function BoardPlace() {
  const run = Number(useParams()['run'])
  const { board, live } = useBoard(run)
  if (board.isPending) return <p className="py-12 text-slate">Setting up the board …</p>
  if (board.isError) return <Failure error={board.error}>The shelf has the runs that there are.</Failure>
  return <Class board={board.data} live={live} />
}

function Class({ board, live }: { board: Board; live: boolean }) {
  const [spot, setSpot] = useState<Spot | null>(null)
  const [joining, setJoining] = useState(board.rows.every((r) => !r.claimed))
  const columns = useMemo(() => columnsOf(board), [board])
  const notes = useMemo(() => attention(board, columns), [board, columns])
  useKeys(
    useMemo(
      () => ({
        j: () => {
          setJoining((open) => !open)
        },
        d: () => {
          const at = notes.findIndex((n) => n.group === spot?.group && n.key === spot.key)
          const next = notes[(at + 1) % Math.max(1, notes.length)]
          if (next) setSpot({ group: next.group, key: next.key })
        },
        Escape: () => {
          setSpot(null)
          setJoining(false)
        },
      }),
      [notes, spot],
    ),
  )
  return (
    <>
      <Heading
        board={board}
        live={live}
        joining={joining}
        onJoin={() => {
          setJoining(!joining)
        }}
      />
      {joining && <JoinPanel board={board} />}
      <div className="grid gap-x-8 desk:grid-cols-[minmax(0,1fr)_15rem]">
        <BoardTable board={board} columns={columns} spot={spot} onSpot={setSpot} />
        <MarginLeaf board={board} columns={columns} notes={notes} spot={spot} onSpot={setSpot} />
      </div>
      <footer className="mt-6 flex flex-wrap items-center justify-between gap-x-8 gap-y-3 print:hidden">
        <StateKey
          words={{
            settled: 'agrees',
            doubtful: 'look again',
            wrong: 'cannot be right',
            waiting: 'no answer yet',
          }}
        />
        <p className="text-note text-slate">
          <kbd className="font-mono">d</kbd> next to look at · <kbd className="font-mono">j</kbd> join code ·{' '}
          <kbd className="font-mono">?</kbd> all keys
        </p>
      </footer>
    </>
  )
}

function Heading({
  board,
  live,
  joining,
  onJoin,
}: {
  board: Board
  live: boolean
  joining: boolean
  onJoin: () => void
}) {
  const now = useServerClock(board.now)
  const { run } = board
  return (
    <div className="mb-5 flex flex-wrap items-start justify-between gap-x-10 gap-y-3">
      <div>
        <h1 className="text-title">{run.title}</h1>
        <p className="text-slate">
          {run.class} · {run.groups} groups · begun {day(run.opened_at)} ·{' '}
          {run.closed_at == null ? (live ? 'live' : 'connecting …') : `closed ${day(run.closed_at)}`}
        </p>
        <p className="mt-1 flex flex-wrap items-baseline gap-x-6 text-note print:hidden">
          <button
            type="button"
            aria-expanded={joining}
            className="min-h-6 text-copper-text underline underline-offset-4"
            onClick={onJoin}
          >
            {joining ? 'hide the join code' : 'show the join code'}
          </button>
          <a
            className="text-copper-text underline underline-offset-4"
            href={`/api/v1/runs/${run.id}/export.csv`}
            download
          >
            readings and results as CSV
          </a>
          <CloseRun board={board} />
        </p>
      </div>
      <div className="text-right">
        <p className="font-mono text-title leading-none">{clockTime(now)}</p>
        <p className="mt-1.5 text-slate">
          code <span className="font-mono text-lead text-ink">{run.code}</span>
        </p>
      </div>
    </div>
  )
}

/** Closing can be undone, but thirty people notice: it asks once. */
function CloseRun({ board }: { board: Board }) {
  const [asked, setAsked] = useState(false)
  const queries = useQueryClient()
  const { id, closed_at } = board.run
  const closed = closed_at != null
  const set = useMutation({
    mutationFn: () =>
      told(
        client.PUT('/api/v1/runs/{run}/closed', { params: { path: { run: id } }, body: { closed: !closed } }),
      ),
    onSuccess: async () => {
      setAsked(false)
      await queries.invalidateQueries()
    },
  })
  if (set.isError) return <Failure error={set.error} />
  if (!asked && !closed) {
    return (
      <button
        type="button"
        className="min-h-6 text-copper-text underline underline-offset-4"
        onClick={() => {
          setAsked(true)
        }}
      >
        close the run
      </button>
    )
  }
  return (
    <span>
      {!closed && 'Groups can then enter nothing more. '}
      <button
        type="button"
        className="min-h-6 font-semibold text-copper-text underline underline-offset-4"
        disabled={set.isPending}
        onClick={() => {
          set.mutate()
        }}
      >
        {closed ? 'open the run again' : 'close it'}
      </button>
      {!closed && (
        <button
          type="button"
          className="ml-3 min-h-6 underline underline-offset-4"
          onClick={() => {
            setAsked(false)
          }}
        >
          keep it open
        </button>
      )}
    </span>
  )
}
