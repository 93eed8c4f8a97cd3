import { useQuery } from '@tanstack/react-query'
import { client, unwrapped } from '@/api'
import { setNumber, Unit } from '@/ui'

/** So often an instrument is looked at that speaks. */
const LOOKS_MS = 700

/** What an instrument shows that speaks: at rest, its digits are taken with one tap. It may still be typed. */
export function Speaking({
  name,
  unit,
  onTake,
}: {
  name: string
  unit: string
  onTake: (digits: string) => void
}) {
  const shows = useQuery({
    queryKey: ['instrument', name],
    refetchInterval: LOOKS_MS,
    retry: false,
    queryFn: () => unwrapped(client.GET('/api/v1/bench/instruments/{name}', { params: { path: { name } } })),
  })
  if (!shows.data) return null
  const { digits, stable, silent } = shows.data
  if (digits == null) {
    return (
      <p className="text-slate">
        {name} sends nothing: {silent ?? 'it is silent'}. Type what it shows.
      </p>
    )
  }
  if (shows.data.unit !== unit) {
    return <p className="text-slate">{`${name} sends ${shows.data.unit}, and ${unit} is asked for.`}</p>
  }
  return (
    <button
      type="button"
      className="action min-h-14"
      disabled={!stable}
      onClick={() => {
        onTake(digits)
      }}
    >
      {stable ? `Take it from ${name}:` : `${name} is settling:`}{' '}
      <span className="font-mono">{setNumber(digits)}</span>
      <Unit of={unit} />
    </button>
  )
}
