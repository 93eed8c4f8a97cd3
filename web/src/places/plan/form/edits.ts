import type { Edit } from '@/api'
import type { Path } from '../path'

/** An edit that puts a value in its place. */
export function setAt(path: Path, value: unknown): Edit {
  return { kind: 'set', path: [...path], value }
}

/** The edit of one field. With a planned amount the readings go along that measure it, which the server knows. */
export function editOf(path: Path, value: unknown): Edit {
  const [section, material, key] = path
  return section === 'materials' &&
    key === 'planned' &&
    typeof value === 'string' &&
    typeof material === 'number'
    ? { kind: 'plan', material, planned: value }
    : setAt(path, value)
}
