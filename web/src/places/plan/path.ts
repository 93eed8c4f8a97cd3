import type { Key } from '@/api'

/** Where something stands in the file: keys, and numbers in lists. */
export type Path = readonly Key[]

/** The name of a line on the page, from its path: the item that a field belongs to. */
export function lineName(path: Path): string {
  return 'line ' + path.slice(0, 2).join(' ')
}

/** Whether `path` lies in `item` or is it. */
export function isIn(path: Path, item: Path): boolean {
  return item.every((key, i) => path[i] === key)
}
