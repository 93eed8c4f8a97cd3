import type { TimeTaken } from '@/api'

/** Minutes for the plan from those that a class took: from the quarter that was quickest to the quarter that was slowest. */
export function minutesFor(time: Pick<TimeTaken, 'lower' | 'upper'>): [number, number] {
  const low = Math.max(1, Math.floor(time.lower))
  return [low, Math.max(low, Math.ceil(time.upper))]
}

/** How a class's time stands beside the plan; nothing where the middle group was within it. */
export function beside(
  time: Pick<TimeTaken, 'median' | 'planned'>,
): 'longer' | 'shorter' | 'unplanned' | 'as planned' {
  if (time.planned == null) return 'unplanned'
  const [low, high] = time.planned
  if (low === undefined || high === undefined) return 'unplanned'
  return time.median > high ? 'longer' : time.median < low ? 'shorter' : 'as planned'
}
