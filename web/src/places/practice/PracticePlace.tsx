import { Link } from 'react-router'
import { useSession, type PracticalToPractise } from '@/api'
import { Failure, Words } from '@/ui'
import { Rehearsals } from './rehearsal/Rehearsals'
import { usePractice } from './usePractice'

/** Skills on instruments, problems from every practical. */
export function PracticePlace() {
  const practice = usePractice()
  const session = useSession()
  if (practice.isPending) return <p className="py-12 text-slate">Opening practice …</p>
  if (practice.isError) {
    return (
      <Failure error={practice.error}>
        <Link to="/join" className="action inline-block">
          Join a class
        </Link>
      </Failure>
    )
  }
  const { practicals } = practice.data
  const teaches = session.data?.role === 'instructor'
  return (
    <>
      <p className="mb-6 max-w-[44rem]">
        Nothing here is saved or marked. Practise reading scales, weighing and titrating, and work out results
        from made-up readings. Your answers are checked as they would be in class.
      </p>
      <section aria-labelledby="hands" className="mb-8">
        <h2 id="hands" className="mb-2 text-body">
          instruments
        </h2>
        <ul className="grid gap-4 tablet:grid-cols-3">
          <Skill to="/practice/scales" name="Read a scale" picture={<ScaleMark />}>
            Twenty scales: how far off are you, and how much do your readings vary?
          </Skill>
          <Skill to="/practice/balance" name="Weigh" picture={<BalanceMark />}>
            A draught, a spill on the pan, a crucible that is still hot.
          </Skill>
          <Skill to={titration(practicals)} name="Titrate" picture={<DropMark />}>
            Stream, drop, half drop, to the first colour that lasts.
          </Skill>
        </ul>
      </section>
      {teaches && <Rehearsals practicals={practicals} />}
      <section aria-labelledby="problems">
        <h2 id="problems" className="mb-1 text-body">
          problems
        </h2>
        {practicals.length === 0 && (
          <p className="text-slate">
            No problems for your practical: their solution would give the answer away.
          </p>
        )}
        <ul>
          {practicals.map((p) => (
            <li key={p.id} className="flex flex-wrap items-baseline gap-x-6 border-t border-rule py-2.5">
              <Link
                to={`/practice/${p.id}`}
                className="font-semibold underline decoration-rule underline-offset-4 hover:decoration-copper"
              >
                {p.title}
              </Link>
              <span className="grow text-slate">
                <Words of={p.finds} />
              </span>
              <span className="flex gap-x-5">
                {p.titrates && (
                  <Link to={`/practice/${p.id}/titration`} className="quiet">
                    titrate it
                  </Link>
                )}
                <Link to={`/practice/${p.id}/slip`} className="quiet">
                  find the slip
                </Link>
              </span>
            </li>
          ))}
        </ul>
      </section>
    </>
  )
}

function titration(practicals: readonly PracticalToPractise[]): string | null {
  const first = practicals.find((p) => p.titrates)
  return first ? `/practice/${first.id}/titration` : null
}

function Skill({
  to,
  name,
  picture,
  children,
}: {
  to: string | null
  name: string
  picture: React.ReactNode
  children: string
}) {
  if (to === null) return null
  return (
    <li className="grid grid-cols-[3.5rem_minmax(0,1fr)] gap-x-4 border-t-2 border-ink pt-3">
      {picture}
      <div>
        <Link to={to} className="action inline-block text-lead">
          {name}
        </Link>
        <p className="mt-2 text-slate">{children}</p>
      </div>
    </li>
  )
}

function ScaleMark() {
  return (
    <svg viewBox="0 0 56 72" aria-hidden="true" className="w-14">
      <path d="M14 0V72M42 0V72" className="stroke-pencil" strokeWidth="1.5" />
      {[6, 18, 30, 42, 54, 66].map((y, i) => (
        <path key={y} d={`M14 ${y}h${i % 2 === 0 ? 16 : 9}`} className="stroke-pencil" />
      ))}
      <path d="M14 34q14 10 28 0V72H14Z" className="fill-teal-wash" />
      <path d="M14 34q14 10 28 0" fill="none" className="stroke-copper" strokeWidth="2.5" />
    </svg>
  )
}

function BalanceMark() {
  return (
    <svg viewBox="0 0 56 72" aria-hidden="true" className="w-14">
      <path d="M4 26h48M28 26v10M8 36h40v28H8Z" fill="none" className="stroke-pencil" strokeWidth="1.5" />
      <path d="M14 46h28v10H14Z" className="fill-teal-wash" />
      <path d="M12 22q16 10 32 0" fill="none" className="stroke-copper" strokeWidth="2.5" />
    </svg>
  )
}

function DropMark() {
  return (
    <svg viewBox="0 0 56 72" aria-hidden="true" className="w-14">
      <path d="M28 0v12M22 12h12" className="stroke-pencil" strokeWidth="1.5" />
      <path d="M28 16q-5 8 0 11q5 -3 0 -11" className="fill-copper" />
      <path d="M22 36v10L6 68h44L34 46V36" fill="none" className="stroke-pencil" strokeWidth="1.5" />
      <path d="M15 58h26l7 9H8Z" className="fill-teal-wash" />
    </svg>
  )
}
