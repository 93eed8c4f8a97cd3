import { Link, useSearchParams } from 'react-router'
import { AIMS } from '@/words'
import { Questions } from './Questions'

/** A practical from what it is to find: what that is, then a few questions with proposals. The address holds all of it. */
export function BeginPlace() {
  const [params] = useSearchParams()
  const aim = AIMS.flatMap((g) => g.aims.map(([a]) => a)).find((a) => a === params.get('find'))
  return aim === undefined ? <Choosing /> : <Questions key={aim} aim={aim} />
}

function Choosing() {
  return (
    <div className="border-l border-copper pl-8">
      <h1 className="text-title">What is to be found?</h1>
      <p className="mb-8 max-w-[60ch] text-slate">
        A few questions follow; most are already answered from the equation and the glass in our room. You get
        a complete practical that you can edit like any other. To start from an existing practical or a file,
        use the{' '}
        <Link to="/shelf#begin" className="text-copper-text underline underline-offset-4">
          shelf
        </Link>
        .
      </p>
      <div className="gap-x-12 desk:columns-2">
        {AIMS.map((group) => (
          <section key={group.of} aria-label={group.of} className="mb-6 break-inside-avoid">
            <h2 className="border-b border-ink pb-1 text-lead">{group.of}</h2>
            <ul>
              {group.aims.map(([aim, name]) => (
                <li key={aim} className="border-b border-rule">
                  <Link
                    to={`/shelf/begin?find=${aim}`}
                    className="block min-h-11 py-2.5 hover:text-copper-text"
                  >
                    {name}
                  </Link>
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
    </div>
  )
}
