import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Suspense, useState, type ReactNode } from 'react'
import { Link, Navigate, NavLink, Outlet, useLocation, useNavigate } from 'react-router'
import { client, unwrapped, useRehearsals, useSession, type RunHead } from '@/api'
import { dayAndTime, Failure } from '@/ui'
import { KeySheet } from './KeySheet'
import { chooseTheme, currentTheme } from './theme'

/** The desk: a rail of places over the page, for whoever is signed in. */
export function Frame() {
  const session = useSession()
  const location = useLocation()
  if (session.isPending) return <main className="p-10 text-slate">Opening the desk …</main>
  if (session.isError) {
    return (
      <main className="p-10">
        <Failure error={session.error}>Nothing is lost. Try again in a moment.</Failure>
      </main>
    )
  }
  const { staff, role } = session.data
  const practises = /^\/practice(\/|$)/.test(location.pathname)
  if (staff == null && practises) return <PracticeFrame group={session.data.group ?? null} />
  if (staff == null) {
    return <Navigate to="/sign-in" state={{ back: location.pathname + location.search }} replace />
  }
  if (
    role === 'technician' &&
    !location.pathname.startsWith('/prepare') &&
    !practises &&
    !['/handbook/room', '/account'].includes(location.pathname)
  ) {
    return <Navigate to="/prepare" replace />
  }
  return (
    <div className="mx-auto max-w-[84rem] px-4 pt-6 tablet:px-10 pb-10 print:max-w-none print:p-0">
      <a
        href="#page"
        className="sr-only focus:not-sr-only focus:mb-3 focus:inline-block focus:text-copper-text focus:underline"
      >
        Skip to content
      </a>
      {role === 'technician' ? <TechnicianRail name={staff} /> : <Rail name={staff} />}
      {session.data.clock_behind != null && (
        <p role="alert" className="mb-4 border-l-4 border-amber pl-3 text-amber-text">
          This machine’s clock says {dayAndTime(session.data.now)}, but the record was last written to on{' '}
          {dayAndTime(session.data.clock_behind)}. Entries keep their order; set the clock before the next
          lesson.
        </p>
      )}
      {session.data.troubles.map((trouble) => (
        <p key={trouble} role="alert" className="mb-4 border-l-4 border-amber pl-3 text-amber-text">
          The server: {trouble}.
        </p>
      ))}
      {role === 'reader' && (
        <p role="note" className="mb-4 border-l-4 border-rule pl-3 text-slate">
          You can read what is shared with you; you cannot change anything.
        </p>
      )}
      <main id="page" tabIndex={-1} className="outline-none">
        <Suspense fallback={<p className="py-12 text-slate">Opening …</p>}>
          <Outlet />
        </Suspense>
      </main>
      <KeySheet />
    </div>
  )
}

/** A group's device, or one that belongs to nobody yet: no desk around what is practised. */
function PracticeFrame({ group }: { group: string | null }) {
  return (
    <div className="mx-auto max-w-[84rem] px-4 pt-4 tablet:px-10 pb-10">
      <header className="mb-4 flex flex-wrap items-baseline gap-x-6 border-b border-rule pb-2">
        <p className="font-semibold">Practice</p>
        {group !== null && (
          <Link to="/bench" className="ml-auto min-h-11 content-center underline underline-offset-4">
            back to {group}’s bench
          </Link>
        )}
      </header>
      <main id="page" tabIndex={-1} className="outline-none">
        <Suspense fallback={<p className="py-12 text-slate">Opening …</p>}>
          <Outlet />
        </Suspense>
      </main>
    </div>
  )
}

function TechnicianRail({ name }: { name: string }) {
  return (
    <RailLine name={name}>
      <Place to="/prepare">Prepare</Place>
      <Place to="/handbook/room">Our room</Place>
    </RailLine>
  )
}

function Rail({ name }: { name: string }) {
  const { pathname } = useLocation()
  const shelf = useQuery({ queryKey: ['shelf'], queryFn: () => unwrapped(client.GET('/api/v1/shelf')) })
  const named = /^\/(?:board|check|record)\/(\d+)/.exec(pathname)?.[1]
  const rehearsals = useRehearsals()
  const of = (runs: readonly RunHead[] | undefined) => runs?.find((r) => String(r.id) === named)
  const rehearsed = of(rehearsals.data)
  const run = rehearsed ?? of(shelf.data?.runs) ?? shelf.data?.runs[0]
  const open = /^\/plan\/([^/]+)/.exec(pathname)?.[1]
  const practical = open ?? run?.practical ?? shelf.data?.practicals[0]?.id
  return (
    <>
      <RailLine name={name}>
        <Place to="/shelf">Shelf</Place>
        {practical && <Place to={`/plan/${practical}`}>Plan</Place>}
        <Place to="/prepare">Prepare</Place>
        {run && <Place to={`/board/${run.id}`}>Board</Place>}
        {run && <Place to={`/check/${run.id}`}>Check</Place>}
        <Place to="/record">Record</Place>
        <Place to="/practice">Practice</Place>
        <Place to="/handbook">Handbook</Place>
      </RailLine>
      {rehearsed && (
        <p role="note" className="mb-4 border-l-4 border-copper pl-3 text-copper-text">
          <b className="font-semibold">Rehearsal.</b> This class is made up and does not count in your
          records.
        </p>
      )}
    </>
  )
}

function RailLine({ name, children }: { name: string; children: ReactNode }) {
  return (
    <header className="mb-5 flex flex-wrap items-baseline gap-x-10 gap-y-2 print:hidden">
      <p className="font-semibold">Keen Beaker</p>
      <nav aria-label="places" className="flex flex-wrap gap-x-6">
        {children}
      </nav>
      <div className="ml-auto flex items-baseline gap-5 text-note text-slate">
        <ThemeSwitch />
        <SignOut name={name} />
      </div>
    </header>
  )
}

function Place({ to, children }: { to: string; children: string }) {
  return (
    <NavLink
      to={to}
      className="relative inline-block pb-1.5 text-slate hover:text-ink aria-[current=page]:font-semibold aria-[current=page]:text-ink"
    >
      {({ isActive }) => (
        <>
          {children}
          {isActive && (
            <svg
              aria-hidden="true"
              viewBox="0 0 40 8"
              preserveAspectRatio="none"
              className="absolute inset-x-0 bottom-0 h-1.5 w-full"
            >
              <path
                d="M0 1q20 10 40 0"
                fill="none"
                className="stroke-copper"
                strokeWidth="2"
                vectorEffect="non-scaling-stroke"
              />
            </svg>
          )}
        </>
      )}
    </NavLink>
  )
}

function ThemeSwitch() {
  const [theme, setTheme] = useState(currentTheme)
  const other = theme === 'dark' ? 'light' : 'dark'
  return (
    <button
      type="button"
      className="underline decoration-rule underline-offset-4 hover:text-ink"
      onClick={() => {
        chooseTheme(other)
        setTheme(other)
      }}
    >
      {other === 'dark' ? 'dark theme' : 'light theme'}
    </button>
  )
}

function SignOut({ name }: { name: string }) {
  const navigate = useNavigate()
  const queries = useQueryClient()
  return (
    <span>
      <Link to="/account" className="underline decoration-rule underline-offset-4 hover:text-ink">
        {name}
      </Link>{' '}
      ·{' '}
      <button
        type="button"
        className="underline decoration-rule underline-offset-4 hover:text-ink"
        onClick={() => {
          void unwrapped(client.DELETE('/api/v1/session')).then(() => {
            queries.clear()
            void navigate('/sign-in')
          })
        }}
      >
        sign out
      </button>
    </span>
  )
}
