import type { PracticalFile } from '@/api'
import { answeringFields } from './answeringFields'
import { benchFields } from './benchFields'
import type { Field } from './fieldKinds'
import { materialFields } from './materialFields'
import { methodFields } from './methodFields'
import { namedIn } from './named'
import { resultFields } from './resultFields'
import { roomFields } from './roomFields'
import { stepFields } from './stepFields'
import { wholeFields } from './wholeFields'

/** What every kind of item holds. Names that can be chosen come from the practical itself. */
export function fieldsOf(file: PracticalFile, techniques: readonly string[]): Record<string, Field[]> {
  const named = namedIn(file, techniques)
  return {
    ...wholeFields(named),
    ...materialFields(named),
    ...roomFields(named),
    ...benchFields(named),
    ...stepFields(named),
    ...methodFields(named),
    ...resultFields(named),
    ...answeringFields(named),
  }
}
