import type { Stop } from '@/api'

/** When a step is done, in words. */
export function stopWords(stop: Stop): string {
  switch (stop.until) {
    case 'dissolved':
      return 'nothing solid is left'
    case 'ph-at-most':
      return `pH ${stop.ph} or below`
    case 'ph-at-least':
      return `pH ${stop.ph} or above`
    case 'colour':
      return stop.to
    case 'constant-mass':
      return `two weighings agree within ${stop.within}`
    case 'dripping-stops':
      return 'nothing drips any more'
    case 'temperature':
      return `${stop.reaches} is reached`
    case 'time':
      return `${stop.lasts} have passed from when ${stop.from}`
  }
}
