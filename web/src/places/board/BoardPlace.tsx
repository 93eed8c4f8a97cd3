import { useMemo, useState } from 'react'
import { useParams } from 'react-router'
import type { Board } from '@/api'
import { Failure, StateKey, useKeys } from '@/ui'
import { attention } from './attention'
import { BoardTable, type Spot } from './BoardTable'
import { columnsOf } from './columns'
import { Guesses } from './Guesses'
import { Heading } from './Heading'
import { JoinPanel } from './JoinPanel'
import { MarginLeaf } from './MarginLeaf'
import { Sieves } from './Sieves'
import { sieved, type Sieve } from './sieves'
import { TellForm } from './TellForm'
import { useBoard } from './useBoard'

/** A class at work, live. */
export function BoardPlace() {
  const run = Number(useParams()['run'])
  const { board, live } = useBoard(run)
  if (board.isPending) return <p className="py-12 text-slate">Setting up the board …</p>
  if (board.isError) return <Failure error={board.error}>The shelf has the list of runs.</Failure>
  return <Class board={board.data} live={live} />
}

/** What is opened above the table. */
type Open = 'join' | 'tell' | null

function Class({ board, live }: { board: Board; live: boolean }) {
  const [spot, setSpot] = useState<Spot | null>(null)
  const [open, setOpen] = useState<Open>(
    !board.run.rehearsal && board.rows.every((r) => !r.claimed) ? 'join' : null,
  )
  const [sieve, setSieve] = useState<Sieve>('all')
  const columns = useMemo(() => columnsOf(board), [board])
  const notes = useMemo(() => attention(board, columns), [board, columns])
  const groups = useMemo(() => sieved(board, columns, notes), [board, columns, notes])
  const toggle = (what: NonNullable<Open>) => {
    setOpen((before) => (before === what ? null : what))
  }
  useKeys(
    useMemo(
      () => ({
        j: () => {
          toggle('join')
        },
        m: () => {
          toggle('tell')
        },
        d: () => {
          const at = notes.findIndex((n) => n.group === spot?.group && n.key === spot.key)
          const next = notes[(at + 1) % Math.max(1, notes.length)]
          if (next) setSpot({ group: next.group, key: next.key })
        },
        Escape: () => {
          setSpot(null)
          setOpen(null)
        },
      }),
      [notes, spot],
    ),
  )
  return (
    <>
      <Heading board={board} live={live} open={open} onOpen={toggle} />
      <Guesses board={board} />
      {open === 'join' && !board.run.rehearsal && <JoinPanel board={board} />}
      {open === 'tell' && (
        <TellForm
          run={board.run.id}
          to={null}
          onSent={() => {
            setOpen(null)
          }}
        />
      )}
      <Sieves groups={groups} chosen={sieve} onChoose={setSieve} />
      <div className="grid gap-x-8 desk:grid-cols-[minmax(0,1fr)_15rem]">
        <BoardTable board={board} columns={columns} shown={groups[sieve]} spot={spot} onSpot={setSpot} />
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
          <kbd className="font-mono">m</kbd> tell all groups · <kbd className="font-mono">?</kbd> all keys
        </p>
      </footer>
    </>
  )
}
