import { useQuery } from '@tanstack/react-query'
import { client, unwrapped } from '@/api'
import type { Flask } from './recipe'

/** Volumetric flasks of the usual sizes with the tolerance of class B, the smallest first. */
export function useFlasks(): readonly Flask[] {
  const glassware = useQuery({
    queryKey: ['handbook', 'glassware'],
    queryFn: () => unwrapped(client.GET('/api/v1/handbook/glassware')),
    staleTime: Infinity,
  })
  const flasks = glassware.data?.filter((g) => g.kind === 'volumetric-flask') ?? []
  return flasks.map((g) => ({ volume: g.volume, tolerance: g.class_b })).sort((a, b) => a.volume - b.volume)
}
