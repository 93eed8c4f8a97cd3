import { Link } from 'react-router'
import type { BenchView } from '@/api'
import { clockTime, columnWidths, Reading, StateMark, Unit } from '@/ui'
import { deviationWords } from '@/words'
import { HandOn } from '../step/HandOn'
import type { BenchNow, Filled } from '../standing'
import type { Entering } from '../useBench'

/** Nothing stands there: not yet, or not any more. */
function TakenOut({ struck }: { struck: BenchView['taken_out'][string] | undefined }) {
  const last = struck?.at(-1)
  if (!last) return <span className="text-body text-slate">not yet</span>
  return (
    <span className="text-body text-slate" title={last.reason ?? ''}>
      <s className="font-mono">{last.text}</s> taken out
    </span>
  )
}

/** Everything that this group has entered, on one page, points beneath each other. */
export function SheetPage({ view, now, entering }: { view: BenchView; now: BenchNow; entering: Entering }) {
  const unsent = entering.onTheirWay.filter((e) => e.seq === undefined).length
  const numbers = [...Object.values(now.readings), ...Object.values(now.answers)].map((s) => s.text)
  const widths = columnWidths(numbers)
  const stepOf = (key: string) =>
    view.steps.findIndex((s) => [s.records, s.observes, s.answers].some((keys) => keys?.includes(key))) + 1
  const address = (key: string, takes: boolean) =>
    `/bench/${stepOf(key)}${takes ? `?take=${encodeURIComponent(key)}` : ''}`
  const line = (key: string, label: string, standing: Filled | undefined, isNumber: boolean) => (
    <tr key={key} className="border-t border-rule align-baseline">
      <th scope="row" className="py-2.5 pr-3 text-left text-body font-normal">
        <Link
          to={address(key, isNumber && !(key in now.readings))}
          className="inline-block min-h-6 underline decoration-rule underline-offset-4"
        >
          {label}
        </Link>
      </th>
      <td className="py-2.5 text-right whitespace-nowrap">
        {standing === undefined ? (
          <TakenOut struck={view.taken_out[key]} />
        ) : isNumber ? (
          <>
            <Reading text={standing.text} {...widths} />
            <span className="inline-block min-w-12 text-left text-body text-slate">
              <Unit of={standing.unit} />
            </span>
          </>
        ) : (
          standing.text
        )}
      </td>
      <td className="w-10 py-2.5 pl-2">
        {standing && (
          <StateMark
            kind={standing.held ? 'waiting' : 'settled'}
            word={standing.held ? 'held on this device' : `arrived ${clockTime(standing.at)}`}
          />
        )}
      </td>
    </tr>
  )
  return (
    <div className="grow py-5">
      <h1 className="text-title">{view.title}</h1>
      <p className="text-slate">
        {view.group}, {view.class}
      </p>
      <p className="mt-3 font-semibold" role="status">
        {unsent === 0 && entering.started
          ? 'Everything you entered has arrived.'
          : `${unsent} still on this device: keep this page open.`}
      </p>
      <table className="mt-4 w-full border-collapse border-b border-rule">
        <caption className="sr-only">everything entered by {view.group}</caption>
        <tbody>
          {view.readings.map((r) => line(r.symbol, r.label, now.readings[r.symbol], true))}
          {view.observations.map((o) => line(o.symbol, o.question, now.observations[o.symbol], false))}
          {view.asked.map((a) => line(a.name, a.label, now.answers[a.name], true))}
        </tbody>
      </table>
      {now.deviations.length > 0 && (
        <section className="mt-6">
          <h2 className="text-lead">Incidents</h2>
          <ul>
            {now.deviations.map((d) => (
              <li key={d.nr} className="border-t border-rule py-2 text-body">
                step {d.step + 1}: {deviationWords(d, view.materials)}
              </li>
            ))}
          </ul>
        </section>
      )}
      <p className="mt-6 text-body text-slate">
        A second device joins with the code <span className="font-mono text-ink">{view.code}</span> and this
        group's PIN <span className="font-mono text-ink">{view.pin}</span>.
      </p>
      {view.messages.length > 0 && (
        <section className="mt-6">
          <h2 className="text-lead">What you were told</h2>
          <ul>
            {view.messages.map((m) => (
              <li key={m.id} className="border-t border-rule py-2 text-body">
                {m.text}{' '}
                <span className="text-slate">
                  {m.from}, {clockTime(m.at)}
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <HandOn view={view} unsent={unsent} />
    </div>
  )
}
