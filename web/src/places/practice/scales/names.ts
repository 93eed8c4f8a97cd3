import type { ScaleKind } from '@/api'

/** What is read. */
export const SCALES: Record<ScaleKind, string> = {
  burette: 'burette, 50 mL',
  'graduated-pipette': 'graduated pipette, 10 mL',
  cylinder100: 'measuring cylinder, 100 mL',
  cylinder10: 'measuring cylinder, 10 mL',
  thermometer: 'thermometer',
}
