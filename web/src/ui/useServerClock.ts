import { useEffect, useState } from 'react'

/** The server's time, ms, running on from when it was told. */
export function useServerClock(told: number): number {
  const [passed, setPassed] = useState(0)
  useEffect(() => {
    const start = performance.now()
    const timer = setInterval(() => {
      setPassed(performance.now() - start)
    }, 1_000)
    return () => {
      clearInterval(timer)
    }
  }, [told])
  return told + passed
}
