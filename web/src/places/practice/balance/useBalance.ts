import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { client, unwrapped, type BalanceAct } from '@/api'

/** So often the display is looked at. */
const LOOKS_MS = 400

/** A balance under somebody's hands; time runs as it does. */
export function useBalance(seed: number) {
  const [acts, setActs] = useState<readonly BalanceAct[]>([])
  const [since, setSince] = useState(0)
  const from = useRef(0)
  useEffect(() => {
    from.current = performance.now()
    const tick = setInterval(() => {
      setSince((performance.now() - from.current) / 1000)
    }, LOOKS_MS)
    return () => {
      clearInterval(tick)
    }
  }, [acts])
  const waited = (seconds: number): BalanceAct[] =>
    seconds > 0.05 ? [...acts, { kind: 'wait', seconds }] : [...acts]
  const now = waited(since)
  const shown = useQuery({
    queryKey: ['practice', 'balance', seed, now],
    gcTime: 0,
    retry: false,
    placeholderData: (before) => before,
    queryFn: () => unwrapped(client.POST('/api/v1/practice/balance', { body: { seed, acts: now } })),
  })
  return {
    shown: shown.data?.shown,
    error: shown.error,
    act: (...next: BalanceAct[]) => {
      setActs([...waited((performance.now() - from.current) / 1000), ...next])
      setSince(0)
    },
  }
}
