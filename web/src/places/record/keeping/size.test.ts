import { expect, test } from 'vitest'
import { size } from './size'

test('a size is read at one look, and never rounds past its unit', () => {
  const sizes = [0, 4096, 999_499, 999_500, 1_940_000, 9_960_000, 999_499_999, 999_500_000]
  expect(sizes.map(size)).toEqual(['1 kB', '4 kB', '999 kB', '1.0 MB', '1.9 MB', '10 MB', '999 MB', '1.0 GB'])
})
