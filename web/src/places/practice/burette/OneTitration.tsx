import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { client, unwrapped, type ByHand, type TitreTold, type WhichProblem } from '@/api'
import { Failure, setNumber } from '@/ui'
import { ReadPad } from '../ReadPad'
import { ScaleView } from '../scales/ScaleView'
import { Glass } from './Glass'
import { Taps } from './Taps'
import { useBurette } from './useBurette'

const BURETTE = { division: 0.1, capacity: 50, zero_at_top: true, decimals: 2, unit: 'mL' }

/** One trial: fill, read, run it in, read again; then what the readings were worth. */
export function OneTitration({
  which,
  of,
  trial,
  onRead,
}: {
  which: WhichProblem
  of: ByHand
  trial: number
  onRead: (start: string, end: string) => void
}) {
  const burette = useBurette(which, trial)
  const [start, setStart] = useState<string | null>(null)
  const [end, setEnd] = useState<string | null>(null)
  const [reads, setReads] = useState(false)
  const told = useTold(which, trial, burette.acts, start, end)
  if (burette.error) return <Failure error={burette.error} />
  if (!burette.view) return <p className="py-12 text-slate">Setting up the burette …</p>
  const { seen } = burette.view
  if (start !== null && end !== null) {
    return (
      <section aria-label="what it was worth">
        {told.data && <Worth told={told.data} />}
        <button
          type="button"
          className="action mt-3 min-h-14"
          onClick={() => {
            onRead(start, end)
          }}
        >
          Write it down
        </button>
      </section>
    )
  }
  const reading = start === null ? 'initial' : 'final'
  const name = trial < of.rough ? 'rough titration' : 'titration'
  return (
    <section aria-label={`trial ${trial + 1}`} className="select-none">
      <h2 className="mb-2 text-body">
        trial {trial + 1}, {name}
        {start !== null && (
          <span className="ml-3 text-slate">
            started at <span className="font-mono">{setNumber(start)}</span>
          </span>
        )}
      </h2>
      <div className="flex gap-x-4">
        {seen.empty ? (
          <p className="grid h-[16rem] w-40 place-items-center border border-rule bg-sheet p-4 text-center text-slate">
            {burette.acts.length === 0 ? 'The burette is empty.' : 'Below the last mark: fill it again.'}
          </p>
        ) : (
          <ScaleView scale={BURETTE} stands={seen.level} label="burette" />
        )}
        <Glass seen={seen} of={of} runs={burette.open === 'run' && !seen.empty} />
      </div>
      {reads ? (
        <ReadPad
          label={`${reading} burette reading`}
          unit="mL, 2 decimals, the last one estimated between the marks"
          keep="Keep"
          onRead={(text) => {
            if (start === null) setStart(text)
            else setEnd(text)
            setReads(false)
          }}
        />
      ) : (
        <Taps burette={burette} started={start !== null} />
      )}
      {!reads && burette.acts.length > 0 && !seen.empty && (
        <button
          type="button"
          className="action mt-2 min-h-14"
          onClick={() => {
            burette.turnOff()
            setReads(true)
          }}
        >
          Take the {reading} reading
        </button>
      )}
    </section>
  )
}

function useTold(
  problem: WhichProblem,
  trial: number,
  acts: ReturnType<typeof useBurette>['acts'],
  start: string | null,
  end: string | null,
) {
  return useQuery({
    queryKey: ['practice', 'told', problem, trial, start, end],
    enabled: start !== null && end !== null,
    queryFn: async () => {
      const view = await unwrapped(
        client.POST('/api/v1/practice/burette', {
          body: { problem, trial, acts: [...acts], read: [start ?? '', end ?? ''] },
        }),
      )
      if (view.told == null) throw new Error('nothing was read')
      return view.told
    },
  })
}

/** What ran in, what was read, and where the end was: what each is off by, in the titre and in per cent of it. */
function Worth({ told }: { told: TitreTold }) {
  const over = told.delivered - told.end_point
  const misread = told.read - told.delivered
  const part = (of: number) => `${Math.abs((100 * of) / told.end_point).toFixed(1)} %`
  return (
    <dl className="max-w-md">
      <Row name="you read" value={told.read} />
      <Row name="it delivered" value={told.delivered}>
        {Math.abs(misread) < 0.015
          ? 'read correctly'
          : `read ${Math.abs(misread).toFixed(2)} mL too ${misread > 0 ? 'much' : 'little'}: the titre is ${part(misread)} ${misread > 0 ? 'high' : 'low'}`}
      </Row>
      <Row name="the end point" value={told.end_point}>
        {over < -0.005
          ? 'the end was not reached'
          : over < 0.06
            ? 'stopped within a drop'
            : `${over.toFixed(2)} mL past it: ${part(over)} high`}
      </Row>
    </dl>
  )
}

function Row({ name, value, children }: { name: string; value: number; children?: string }) {
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-4 border-t border-rule py-2">
      <dt>{name}</dt>
      <dd className="font-mono">{value.toFixed(2)} mL</dd>
      {children !== undefined && <dd className="col-span-2 text-note text-slate">{children}</dd>}
    </div>
  )
}
