import * as choices from './choices'
import { always, choice, flag, number, text, type Field } from './fieldKinds'
import type { Named } from './named'

/** Instruments, vessels, and what groups share. */
export function roomFields({ readings }: Named): Record<string, Field[]> {
  return {
    instruments: [
      always(text('name', 'name in the room')),
      always(choice('kind', 'kind', choices.INSTRUMENT_KINDS)),
      always(text('unit', 'unit')),
      always(number('resolution', 'step')),
      number('tolerance', 'tolerance, either way'),
      number('repeatability', 'repeatability, s'),
      number('capacity', 'capacity'),
      number('sensitivity', 'relative error of a balance'),
    ],
    vessels: [
      always(text('name', 'name')),
      always(text('capacity', 'holds', '100 mL')),
      flag('tagged', 'carries a tag'),
      choice('weighed_as', 'weighed empty by', readings, true),
    ],
    resources: [
      always(text('name', 'name')),
      always(number('count', 'how many')),
      always(number('groups', 'groups at once')),
    ],
  }
}
