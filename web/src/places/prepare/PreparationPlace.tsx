import { useMemo } from 'react'
import { Link, NavLink, useNavigate } from 'react-router'
import type { PreparationView } from '@/api'
import { dayAndTime, Failure, useKeys } from '@/ui'
import { Amounts } from './Amounts'
import { Choices } from './Choices'
import { Labels } from './labels/Labels'
import { Recipe } from './Recipe'
import { RoomTime } from './RoomTime'
import { Sheets } from './sheets/Sheets'
import { Solutions } from './Solutions'
import { Trays } from './Trays'
import { usePreparation, useWhich } from './usePreparation'

const PARTS = ['amounts', 'solutions', 'trays', 'labels', 'sheets', 'time'] as const

/** What is put out for a class, each part reachable by one key. */
export function PreparationPlace() {
  const { base, search, part, material } = useWhich()
  const preparation = usePreparation()
  const navigate = useNavigate()
  useKeys(
    useMemo(
      () =>
        Object.fromEntries(
          PARTS.map((name, i) => [
            String(i + 1),
            () => {
              void navigate(`${base}/${name}${search}`)
            },
          ]),
        ),
      [base, search, navigate],
    ),
  )
  if (preparation.isPending) return <p className="py-12 text-slate">Reckoning what is needed …</p>
  if (preparation.isError) {
    return <Failure error={preparation.error}>The prep room has what comes this week.</Failure>
  }
  const view = preparation.data
  return (
    <div>
      <Head of={view} />
      <nav aria-label="parts" className="mb-5 flex flex-wrap gap-x-6 gap-y-1 print:hidden">
        {PARTS.map((name, i) => (
          <NavLink
            key={name}
            to={`${base}/${name}${search}`}
            aria-current={name === part ? 'page' : undefined}
            className={`min-h-6 border-b-2 pb-1 ${name === part ? 'border-copper text-ink' : 'border-transparent text-slate hover:text-ink'}`}
          >
            <span className="text-pencil">{i + 1}</span> {name}
          </NavLink>
        ))}
      </nav>
      <Part of={view} part={part} material={material} />
    </div>
  )
}

function Part({ of, part, material }: { of: PreparationView; part: string; material: string | undefined }) {
  switch (part) {
    case 'solutions':
      return material === undefined ? (
        <Solutions of={of} />
      ) : (
        <Recipe key={material} of={of} symbol={material} />
      )
    case 'trays':
      return <Trays of={of} />
    case 'labels':
      return <Labels of={of} />
    case 'sheets':
      return <Sheets of={of} />
    case 'time':
      return <RoomTime of={of} />
    default:
      return <Amounts of={of} />
  }
}

function Head({ of }: { of: PreparationView }) {
  const next = of.visits.find((v) => v.begins_at + v.minutes * 60_000 > of.now)
  return (
    <div className="mb-4 flex flex-wrap items-start justify-between gap-x-10 gap-y-3">
      <div>
        <h1 className="text-title">{of.title}</h1>
        <p className="text-slate">
          {of.run == null
            ? `as if for ${of.groups.length} groups`
            : `${of.class} · ${of.groups.length} groups`}
          {next && ` · lesson ${next.nr}, ${dayAndTime(next.begins_at)}`}
          <span className="print:hidden">
            {' · '}
            <Link className="text-copper-text underline underline-offset-4" to="/prepare">
              what else there is to prepare
            </Link>
          </span>
        </p>
      </div>
      {of.run != null && <Choices of={of} run={of.run} />}
    </div>
  )
}
