import { useMutation, useQueryClient } from '@tanstack/react-query'
import { client, theFile, unwrapped, type ToImport } from '@/api'

/** Reading a file, trying its cells, and taking them in. */
export function useImport(run: number) {
  const queries = useQueryClient()
  const path = { run }
  const read = useMutation({
    mutationFn: (file: Blob) =>
      unwrapped(client.POST('/api/v1/runs/{run}/spreadsheet', { params: { path }, ...theFile(file) })),
  })
  const take = useMutation({
    mutationFn: (body: ToImport) =>
      unwrapped(client.POST('/api/v1/runs/{run}/import', { params: { path }, body })),
    onSuccess: (done) => (done.taken ? queries.invalidateQueries() : undefined),
  })
  return { read, take }
}

const KEY = 'keen-beaker columns'

/** What columns were said to be in a practical, by the words at their head. */
export function rememberedColumns(practical: string): Record<string, string> {
  try {
    const all = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Record<string, Record<string, string>>
    return all[practical] ?? {}
  } catch {
    // Somebody else's words under our key: nothing is remembered.
    return {}
  }
}

/** Keeps that for the next file. */
export function rememberColumns(practical: string, head: readonly string[], columns: readonly string[]) {
  const said = Object.fromEntries(head.map((words, i) => [words, columns[i] ?? '']))
  try {
    const all = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Record<string, Record<string, string>>
    localStorage.setItem(KEY, JSON.stringify({ ...all, [practical]: { ...all[practical], ...said } }))
  } catch {
    // A browser that keeps nothing asks again next time.
  }
}
