import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'
import { client, unwrapped, type Slip, type SlipToFind, type WhichProblem } from '@/api'
import { Failure, setNumber, StateMark, Unit, WorkedLines, Words } from '@/ui'
import { slipDid, slipName } from '@/words'
import { PracticeHead } from '../PracticeHead'
import { GivenList } from '../problem/GivenList'
import { NoProblem } from '../problem/ProblemPage'
import { useSeed } from '../useSeed'

/** A finished sum with one slip in it: which? */
export function SlipPage() {
  const { practical = '' } = useParams()
  const { seed, another } = useSeed()
  const which = { practical, seed, by_hand: false }
  const sum = useQuery({
    queryKey: ['practice', 'slip', which],
    staleTime: Infinity,
    retry: false,
    queryFn: () => unwrapped(client.POST('/api/v1/practice/slip', { body: which })),
  })
  if (sum.isPending) return <p className="py-12 text-slate">Working it out, wrongly …</p>
  if (sum.isError) return <NoProblem error={sum.error} />
  return (
    <>
      <PracticeHead title={`Find the slip: ${sum.data.problem.title}`} seed={seed} onAnother={another} />
      <div className="grid gap-x-10 gap-y-8 desk:grid-cols-[minmax(0,1fr)_minmax(0,28rem)]">
        <GivenList view={sum.data.problem} />
        <Choices key={seed} which={which} sum={sum.data} onAnother={another} />
      </div>
    </>
  )
}

function Choices({ which, sum, onAnother }: { which: WhichProblem; sum: SlipToFind; onAnother: () => void }) {
  const [chosen, setChosen] = useState<Slip | null>(null)
  const found = useQuery({
    queryKey: ['practice', 'slip-named', which, chosen],
    enabled: chosen !== null,
    staleTime: Infinity,
    queryFn: () => {
      if (chosen === null) throw new Error('nothing is chosen')
      return unwrapped(client.POST('/api/v1/practice/slip/named', { body: { problem: which, slip: chosen } }))
    },
  })
  const told = found.data
  return (
    <section aria-label="the sum">
      <p>
        Somebody worked out{' '}
        <b className="font-semibold">
          <Words of={sum.label} />
        </b>{' '}
        from these readings and wrote
      </p>
      <p className="my-2 font-mono text-title">
        {setNumber(sum.text)}
        <Unit of={sum.unit} />
      </p>
      <p className="mb-2">There is one mistake. Which?</p>
      <ul className="flex flex-col gap-1.5">
        {sum.choices.map((slip) => (
          <li key={slip}>
            <button
              type="button"
              aria-pressed={slip === chosen}
              className="min-h-11 w-full border border-rule bg-sheet px-3 text-left hover:border-copper aria-pressed:border-2 aria-pressed:border-teal aria-pressed:bg-teal-wash"
              onClick={() => {
                setChosen(slip)
              }}
            >
              {slipName(slip)}
            </button>
          </li>
        ))}
      </ul>
      {found.isError && <Failure error={found.error} />}
      {told && (
        <div role="status" className="mt-4">
          <p className="flex items-baseline gap-3 font-semibold">
            <StateMark kind={told.right ? 'settled' : 'wrong'} />
            {told.right ? 'Yes.' : 'No: that mistake would give another number. Try again.'}
          </p>
          {told.right && (
            <>
              {told.named.slice(0, 1).map((e) => (
                <p key={e.slip} className="mt-1">
                  {capital(slipDid(e.slip, e.at))}
                  {e.instead != null && e.right != null && `: ${e.instead} for ${e.right}`}.
                </p>
              ))}
              {told.worked.comes_to != null && (
                <p className="mt-1">
                  It comes to <span className="font-mono text-teal">{setNumber(told.worked.comes_to)}</span>.
                </p>
              )}
              <WorkedLines lines={told.worked.lines} />
              <button type="button" className="action mt-3" onClick={onAnother}>
                Another one
              </button>
            </>
          )}
        </div>
      )}
    </section>
  )
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)
