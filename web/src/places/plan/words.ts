import type { Stop } from '@/api'

/** When a step is done, in words. */
export function stopWords(stop: Stop): string {
  switch (stop.until) {
    case 'dissolved':
      return 'all of it has dissolved'
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
    case 'rises-to':
      return `it has come up to ${stop.to}`
    case 'falls-to':
      return `it has come down to ${stop.to}`
    case 'at-most':
      return `${stop.value} or below`
    case 'at-least':
      return `${stop.value} or above`
    case 'within':
      return `${stop.value}, within ${stop.by} either way`
    case 'not-above':
      return `before it goes above ${stop.limit}`
    case 'stays-within':
      return `held at ${stop.value} within ${stop.by} for ${stop.lasts}`
    case 'time':
      return `${stop.lasts} after: ${stop.from}`
  }
}
