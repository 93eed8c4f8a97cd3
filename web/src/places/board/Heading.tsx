import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { client, unwrapped, type Board, type VisitView } from '@/api'
import { clockTime, day, dayAndTime, Failure, sameDay, Download, useServerClock } from '@/ui'

import { Expected } from './Expected'
import { RehearsalLine } from './RehearsalLine'

const LINK = 'min-h-6 text-copper-text underline underline-offset-4'

/** What runs, since when, what o'clock it is; and what an instructor does to a run as a whole. */
export function Heading({
  board,
  live,
  open,
  onOpen,
}: {
  board: Board
  live: boolean
  open: 'join' | 'tell' | null
  onOpen: (what: 'join' | 'tell') => void
}) {
  const now = useServerClock(board.now)
  const { run } = board
  const at = `/board/${run.id}`
  return (
    <div className="mb-4 flex flex-wrap items-start justify-between gap-x-10 gap-y-3">
      <div>
        <h1 className="text-title">{run.title}</h1>
        <p className="text-slate">
          {run.class} · {run.groups} groups · begun {day(run.opened_at)} ·{' '}
          {run.closed_at == null ? (live ? 'live' : 'connecting …') : `closed ${day(run.closed_at)}`}
          <Lesson visits={board.run.visits} now={now} />
        </p>
        {run.rehearsal && run.closed_at == null && <RehearsalLine run={run} />}
        {!run.rehearsal && run.closed_at == null && <Expected run={run.id} now={now} />}
        <p className="mt-1 flex flex-wrap items-baseline gap-x-5 text-note print:hidden">
          {!run.rehearsal && (
            <button
              type="button"
              aria-expanded={open === 'join'}
              className={LINK}
              onClick={() => {
                onOpen('join')
              }}
            >
              {open === 'join' ? 'hide the join code' : 'show the join code'}
            </button>
          )}
          <button
            type="button"
            aria-expanded={open === 'tell'}
            className={LINK}
            onClick={() => {
              onOpen('tell')
            }}
          >
            tell all groups
          </button>
          <Link className={LINK} to={`${at}/people`}>
            people and lessons
          </Link>
          <Link className={LINK} to={`${at}/projector`}>
            for the projector
          </Link>
          {!run.rehearsal && (
            <Link className={LINK} to={`/prepare/${run.id}`}>
              prepare
            </Link>
          )}
          <Link className={LINK} to={`${at}/labels`}>
            labels
          </Link>
          <Download run={run.id} className={LINK} />
          <Pause board={board} />
          <CloseRun board={board} />
        </p>
        {run.paused_at != null && (
          <p role="status" className="mt-2 border-l-4 border-amber pl-3 text-amber-text">
            Paused since {clockTime(run.paused_at)}: what groups enter waits on their devices.
          </p>
        )}
      </div>
      <div className="text-right">
        <p className="font-mono text-title leading-none">{clockTime(now)}</p>
        {!run.rehearsal && (
          <p className="mt-1.5 text-slate">
            code <span className="font-mono text-lead text-ink">{run.code}</span>
          </p>
        )}
      </div>
    </div>
  )
}

/** Which lesson is on, or when the next one is. */
function Lesson({ visits, now }: { visits: readonly VisitView[]; now: number }) {
  if (visits.length === 0) return null
  const end = (v: VisitView) => v.begins_at + v.minutes * 60_000
  const on = visits.find((v) => v.begins_at <= now && now < end(v))
  const next = visits.find((v) => v.begins_at > now)
  if (on) {
    const words = visits.length > 1 ? `lesson ${on.nr} of ${visits.length}, ` : ''
    return <> · {`${words}until ${clockTime(end(on))}`}</>
  }
  if (!next) return null
  const when = sameDay(next.begins_at, now) ? clockTime(next.begins_at) : dayAndTime(next.begins_at)
  return <> · {`lesson ${next.nr} of ${visits.length} at ${when}`}</>
}

/** The class listens for a while: nothing is lost, so it is done at once. */
function Pause({ board }: { board: Board }) {
  const queries = useQueryClient()
  const { id, paused_at, closed_at } = board.run
  const set = useMutation({
    mutationFn: (paused: boolean) =>
      unwrapped(client.PUT('/api/v1/runs/{run}/paused', { params: { path: { run: id } }, body: { paused } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['board', id] }),
  })
  if (closed_at != null) return null
  if (set.isError) return <Failure error={set.error} />
  return (
    <button
      type="button"
      className={`${LINK} ${paused_at == null ? '' : 'font-semibold'}`}
      disabled={set.isPending}
      onClick={() => {
        set.mutate(paused_at == null)
      }}
    >
      {paused_at == null ? 'pause' : 'go on'}
    </button>
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
      unwrapped(
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
        className={LINK}
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
      {!closed && 'No more readings. Calculations can still be sent. '}
      <button
        type="button"
        className={`${LINK} font-semibold`}
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
