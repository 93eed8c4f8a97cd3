import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { client, unwrapped } from '@/api'
import { day } from '@/ui'

/** Classes whose names were to be kept until a day that is over. */
export function NamesDue({ now }: { now: number }) {
  const classes = useQuery({
    queryKey: ['classes'],
    queryFn: () => unwrapped(client.GET('/api/v1/classes')),
  })
  const over = (classes.data?.classes ?? []).filter(
    (k) => k.people.length > 0 && k.keep_until != null && k.keep_until < now,
  )
  return over.map((k) => (
    <p key={k.id} className="mb-4 border-l-4 border-amber pl-4 text-amber-text">
      The names of {k.name} were to be kept until {day(k.keep_until ?? 0)}.{' '}
      <Link to={`/shelf/classes/${k.id}`} className="font-semibold underline underline-offset-4">
        Erase them, or say for how much longer
      </Link>
    </p>
  ))
}
