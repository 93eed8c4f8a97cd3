import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { client, unwrapped, type TitrationAct, type WhichProblem } from '@/api'

/** So often the picture is asked for while something runs, and while the walls drain. */
const RUNNING_MS = 200
const RESTING_MS = 1000
/** After so long nothing moves any more, s. */
const AT_REST = 40

type Runs = 'run' | 'run-off'

/** One titration under somebody's hands: what was done so far, and what is to be seen. Time runs as it does. */
export function useBurette(problem: WhichProblem, trial: number) {
  const [acts, setActs] = useState<readonly TitrationAct[]>([])
  const [open, setOpen] = useState<Runs | null>(null)
  const [since, setSince] = useState(0)
  const from = useRef(0)

  useEffect(() => {
    from.current = performance.now()
    const tick = setInterval(
      () => {
        const seconds = (performance.now() - from.current) / 1000
        setSince(open === null ? Math.min(Math.round(seconds), AT_REST) : seconds)
      },
      open === null ? RESTING_MS : RUNNING_MS,
    )
    return () => {
      clearInterval(tick)
    }
  }, [acts, open])

  const now = during(acts, open, since)
  const seen = useQuery({
    queryKey: ['practice', 'burette', problem, trial, now],
    gcTime: 0,
    retry: false,
    placeholderData: (before) => before,
    queryFn: () =>
      unwrapped(client.POST('/api/v1/practice/burette', { body: { problem, trial, acts: [...now] } })),
  })
  const elapsed = () => (performance.now() - from.current) / 1000
  return {
    acts,
    open,
    view: seen.data,
    error: seen.error,
    act: (act: TitrationAct) => {
      setActs([...during(acts, null, Math.min(elapsed(), AT_REST)), act])
      setSince(0)
    },
    turnOn: (what: Runs) => {
      setActs(during(acts, null, Math.min(elapsed(), AT_REST)))
      setSince(0)
      setOpen(what)
    },
    turnOff: () => {
      if (open === null) return
      setActs(during(acts, open, elapsed()))
      setSince(0)
      setOpen(null)
    },
    again: () => {
      setActs([])
      setOpen(null)
      setSince(0)
    },
  }
}

/** What was done, with what is going on. */
function during(acts: readonly TitrationAct[], open: Runs | null, seconds: number): TitrationAct[] {
  if (open !== null) return [...acts, { kind: open, seconds }]
  return seconds > 0.3 && acts.length > 0 ? [...acts, { kind: 'wait', seconds }] : [...acts]
}
