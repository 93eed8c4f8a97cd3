/** A sheet of labels: size of one, and how many there are. Millimetres. */
export interface SheetSize {
  name: string
  width: number
  height: number
  columns: number
  rows: number
}

/** A few sizes that fit A4 or Letter. */
export const SIZES: readonly [SheetSize, ...SheetSize[]] = [
  { name: 'A4, 2 × 4, 99 × 68 mm', width: 99, height: 68, columns: 2, rows: 4 },
  { name: 'A4, 3 × 7, 63 × 38 mm', width: 63, height: 38, columns: 3, rows: 7 },
  { name: 'A4, 2 × 7, 99 × 38 mm', width: 99, height: 38, columns: 2, rows: 7 },
  { name: 'Letter, 2 × 5, 101 × 50 mm', width: 101, height: 50, columns: 2, rows: 5 },
]
