import { useSearchParams } from 'react-router'

/** Which of the problems: the number stands in the address, so that a neighbour can be given the same one. */
export function useSeed(): { seed: number; another: () => void } {
  const [search, setSearch] = useSearchParams()
  const asked = Number(search.get('no') ?? '1')
  const seed = Number.isInteger(asked) && asked >= 0 && asked < 2 ** 32 ? asked : 1
  return {
    seed,
    another: () => {
      setSearch({ no: String(1 + Math.floor(Math.random() * 9999)) })
    },
  }
}
