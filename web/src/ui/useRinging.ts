import { useEffect, useState } from 'react'
import { isMuted, ring, setMuted } from './alarm'

/** Sounds every few seconds while something rings, and tells whether this device is muted. */
export function useRinging(rings: boolean): { muted: boolean; mute: (muted: boolean) => void } {
  const [muted, setKnown] = useState(isMuted)
  useEffect(() => {
    if (!rings || muted) return
    ring()
    const again = setInterval(ring, 4000)
    return () => {
      clearInterval(again)
    }
  }, [rings, muted])
  return {
    muted,
    mute: (next) => {
      setMuted(next)
      setKnown(next)
    },
  }
}
