import { Link, useParams } from 'react-router'
import { Elements } from './Elements'
import { GlasswareTable } from './GlasswareTable'
import { Methods } from './Methods'
import { RoomPage } from './room/RoomPage'
import { SchoolPage } from './school/SchoolPage'
import { Substances } from './Substances'
import { Techniques } from './Techniques'
import { Workbench } from './workbench/Workbench'

const PAGES = [
  { key: 'workbench', title: 'workbench' },
  { key: 'methods', title: 'methods' },
  { key: 'substances', title: 'substances' },
  { key: 'techniques', title: 'techniques' },
  { key: 'elements', title: 'elements' },
  { key: 'glassware', title: 'glassware' },
  { key: 'room', title: 'our room' },
  { key: 'school', title: 'our school' },
] as const

type PageKey = (typeof PAGES)[number]['key']

/** What one looks up, and the workbench where one tries a calculation. */
export function HandbookPlace() {
  const { page } = useParams()
  const chosen: PageKey = PAGES.find((p) => p.key === page)?.key ?? 'workbench'
  return (
    <>
      <nav aria-label="handbook" className="mb-5 flex flex-wrap gap-x-6 gap-y-1 print:hidden">
        {PAGES.map((p) => (
          <Link
            key={p.key}
            to={`/handbook/${p.key}`}
            aria-current={p.key === chosen ? 'page' : undefined}
            className="min-h-6 border-b-2 border-transparent text-slate hover:text-ink aria-[current=page]:border-copper aria-[current=page]:text-ink"
          >
            {p.title}
          </Link>
        ))}
      </nav>
      <Page of={chosen} />
    </>
  )
}

function Page({ of }: { of: PageKey }) {
  switch (of) {
    case 'workbench':
      return <Workbench />
    case 'methods':
      return <Methods />
    case 'substances':
      return <Substances />
    case 'techniques':
      return <Techniques />
    case 'elements':
      return <Elements />
    case 'glassware':
      return <GlasswareTable />
    case 'room':
      return <RoomPage />
    case 'school':
      return <SchoolPage />
  }
}
