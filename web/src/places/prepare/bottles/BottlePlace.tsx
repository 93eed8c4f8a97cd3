import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { client, unwrapped, type Bottle, type BottleView } from '@/api'
import { dayAndTime, Failure, WorkedLines } from '@/ui'

/** All that is known of a bottle: from what, by whom, how sure, and who took from it. */
export function BottlePlace() {
  const name = useParams()['bottle'] ?? ''
  const bottle = useQuery({
    queryKey: ['bottle', name],
    queryFn: () => unwrapped(client.GET('/api/v1/room/bottles/{name}', { params: { path: { name } } })),
  })
  if (bottle.isPending) return <p className="py-12 text-slate">Reaching for the bottle …</p>
  if (bottle.isError) return <Failure error={bottle.error}>It may have been taken out of the room.</Failure>
  const view = bottle.data
  return (
    <div className="border-l border-copper pl-4 tablet:pl-8">
      <h1 className="text-title">{view.bottle.name}</h1>
      <p className="mb-2 text-lead">{view.bottle.holds}</p>
      {view.bottle.measured == null ? (
        <p className="text-lead">{view.bottle.strength}</p>
      ) : (
        <p className="text-value font-mono">{view.bottle.measured}</p>
      )}
      <History of={view.bottle} isOld={view.is_old} />
      <div className="mt-8 grid gap-x-12 gap-y-8 desk:grid-cols-2">
        {view.worked && (
          <section aria-labelledby="sum">
            <h2 id="sum" className="mb-2 text-lead">
              {view.bottle.standardised ? 'when it was made' : 'how that follows'}
            </h2>
            <WorkedLines lines={view.worked.lines} />
          </section>
        )}
        <Uses of={view} />
      </div>
    </div>
  )
}

function History({ of, isOld }: { of: Bottle; isOld: boolean }) {
  const { made, standardised } = of
  return (
    <ul className="mt-2 text-slate">
      {standardised && (
        <li>
          standardised by {standardised.from}; {standardised.by}, {dayAndTime(standardised.at)}
        </li>
      )}
      {made && (
        <li>
          made from {made.from}; {made.by}, {dayAndTime(made.at)}
        </li>
      )}
      {made?.keep_until != null && (
        <li className={isOld ? 'font-semibold text-amber-text' : ''}>
          good until {made.keep_until}
          {isOld && ': that is over'}
        </li>
      )}
      {of.strength !== '' && of.measured != null && <li>on its label: {of.strength}</li>}
      {!made && !standardised && <li>no record of how it was made</li>}
    </ul>
  )
}

function Uses({ of }: { of: BottleView }) {
  const runs = [...new Set(of.uses.map((u) => u.run))]
  return (
    <section aria-labelledby="uses">
      <h2 id="uses" className="mb-2 text-lead">
        used by
      </h2>
      {of.uses.length + of.others === 0 && <p className="text-slate">No group has said so yet.</p>}
      <ul>
        {runs.map((run) => {
          const own = of.uses.filter((u) => u.run === run)
          return (
            <li key={run} className="border-t border-rule py-1 last:border-b">
              <Link className="underline decoration-rule underline-offset-4" to={`/prepare/${run}/solutions`}>
                {own[0]?.title}
              </Link>
              <span className="text-slate">, {own[0]?.class}: </span>
              {own.map((u) => u.group).join(', ')}
            </li>
          )
        })}
      </ul>
      {of.others > 0 && (
        <p className="mt-1 text-slate">
          {of.others === 1 ? 'A group of another class' : `${of.others} groups of other classes`} as well.
        </p>
      )}
    </section>
  )
}
