import type { ReadingSpec } from '@/api'

/** Whether a volume is read off (or filled to a mark) on an upright glass, or a number on a display. */
export function isGlass(spec: ReadingSpec): boolean {
  switch (spec.instrument_kind) {
    case 'balance':
    case 'dropping-pipette':
    case 'thermometer':
    case 'ph-meter':
    case 'ph-paper':
    case 'timer':
    case 'melting-point':
    case 'meter':
      return false
    case 'volumetric-pipette':
    case 'volumetric-flask':
    case 'burette':
    case 'measuring-cylinder':
    case 'graduated-pipette':
    case 'syringe':
      return true
  }
}
