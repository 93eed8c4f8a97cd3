import { useState } from 'react'
import {
  answerSlot,
  type Board,
  type EntryBody,
  type Entered,
  type Finding,
  type GroupPage,
  type ReadingSpec,
  type Struck,
} from '@/api'
import { columnWidths, dayAndTime, Reading, StateMark, Unit } from '@/ui'
import { findingWords } from '@/words'
import { DeskForm } from './DeskForm'
import { proposedOn } from './proposed'

/** All that stands at their bench, or should: readings, what was seen, answers. Each can be entered or mended here. */
export function Readings({ board, page }: { board: Board; page: GroupPage }) {
  const { row } = page
  const widths = columnWidths(Object.values(row.readings).map((e) => e.text))
  // Each student once, whatever the visits; or the group as one.
  const students = [...new Map(page.people.map((p) => [p.person, p])).values()]
  const answerers = board.answers_of === 'student' ? students : [undefined]
  // Of a series, the places that are filled and the one that comes next.
  const shown = board.readings.filter((r, i, all) => {
    if (r.symbol in row.readings || r.symbol in row.taken_out || r.axis == null) return true
    const before = all.slice(0, i).filter((b) => b.reading === r.reading)
    return before.every((b) => b.symbol in row.readings)
  })
  return (
    <section aria-labelledby="standing">
      <h2 id="standing" className="mb-2 text-body">
        current readings
      </h2>
      <table className="w-full border-collapse">
        <caption className="sr-only">readings, observations and answers of {row.name}</caption>
        <tbody>
          {shown.map((r) => (
            <Place
              key={r.symbol}
              board={board}
              page={page}
              label={r.label}
              entered={row.readings[r.symbol]}
              out={row.taken_out[r.symbol] ?? []}
              findings={row.outcome.findings[r.symbol] ?? []}
              value={(e) => <Reading text={e.text} {...widths} />}
              made={(text) => ({ kind: 'reading', symbol: r.symbol, text, unit: r.unit })}
              struck={{ kind: 'struck', place: 'reading', name: r.symbol }}
              proposals={proposedOn(row, r.symbol)}
              spec={r}
            />
          ))}
          {board.observations.map((o) => (
            <Place
              key={o.symbol}
              board={board}
              page={page}
              label={o.question}
              entered={row.observations[o.symbol]}
              out={[]}
              findings={[]}
              value={(e) => e.text}
              made={(choice) => ({ kind: 'observation', symbol: o.symbol, choice })}
              struck={{ kind: 'struck', place: 'observation', name: o.symbol }}
              choices={o.choices ?? []}
            />
          ))}
          {board.results
            .filter((r) => r.asked)
            .flatMap((r) => answerers.map((who) => ({ r, who, slot: answerSlot(r.name, who?.person) })))
            .map(({ r, who, slot }) => (
              <Place
                key={slot}
                board={board}
                page={page}
                label={`${r.label}, ${who?.name ?? 'their answer'}`}
                entered={row.answers[slot]}
                out={[]}
                findings={[]}
                value={(e) => <span className={r.answer === 'words' ? '' : 'font-mono'}>{e.text}</span>}
                made={(text, unit) => ({
                  kind: 'answer',
                  result: r.name,
                  text,
                  unit,
                  ...(who && { by: who.person }),
                })}
                struck={{ kind: 'struck', place: 'answer', name: slot }}
                units={r.units}
              />
            ))}
        </tbody>
      </table>
    </section>
  )
}

function Place({
  board,
  page,
  label,
  entered,
  out,
  findings,
  value,
  made,
  struck,
  spec,
  choices,
  units,
  proposals = [],
}: {
  board: Board
  page: GroupPage
  label: string
  entered: Entered | undefined
  out: readonly Struck[]
  findings: readonly Finding[]
  value: (entered: Entered) => React.ReactNode
  made: (text: string, unit: string) => EntryBody
  struck: EntryBody
  spec?: ReadingSpec
  choices?: readonly string[]
  units?: readonly string[]
  /** What their sums read here instead. */
  proposals?: readonly string[]
}) {
  const [open, setOpen] = useState(false)
  const earlier = entered?.struck ?? out
  const doubtful = findings.length > 0 && entered?.confirmed !== true
  return (
    <>
      <tr className="border-t border-rule align-baseline">
        <th scope="row" className="py-1.5 pr-4 text-left font-normal text-slate">
          {label}
        </th>
        <td className="pr-3 whitespace-nowrap">
          {earlier.map((s, i) => (
            <s key={i} className="mr-2 font-mono text-slate" title={s.reason ?? 'entered again'}>
              {s.text}
            </s>
          ))}
          {entered && (
            <>
              {value(entered)}
              <span className="ml-1">
                <Unit of={entered.unit} />
              </span>
            </>
          )}
          {!entered && out.length > 0 && <span className="text-note text-copper-text">taken out</span>}
          {doubtful && <StateMark kind="doubtful" />}
        </td>
        <td className="text-note text-slate">
          {entered && <Circumstance entered={entered} {...(spec && { instrument: spec.instrument })} />}
        </td>
        <td className="text-right text-note print:hidden">
          <button
            type="button"
            aria-expanded={open}
            aria-label={`${entered ? 'edit' : 'enter'} ${label}`}
            className="min-h-6 text-copper-text underline underline-offset-4"
            onClick={() => {
              setOpen(!open)
            }}
          >
            {open ? 'leave it' : entered ? 'edit' : 'enter'}
          </button>
        </td>
      </tr>
      {doubtful && (
        <tr>
          <td colSpan={4} className="pb-1.5 text-note text-amber-text">
            {findings.map(findingWords).join(' ')}
          </td>
        </tr>
      )}
      {proposals.map((instead) => (
        <tr key={instead}>
          <td colSpan={4} className="pb-1.5 text-note text-amber-text">
            Their calculation has {instead} here. If that is on their paper, correct the reading; the
            calculation is then right.
          </td>
        </tr>
      ))}
      {open && (
        <tr>
          <td colSpan={4} className="pb-3">
            <DeskForm
              run={board.run.id}
              group={page.row.group}
              label={label}
              entered={entered}
              made={made}
              struck={struck}
              {...(spec && { unit: spec.unit })}
              {...(choices && { choices })}
              {...(units && { units })}
              onDone={() => {
                setOpen(false)
              }}
            />
          </td>
        </tr>
      )}
    </>
  )
}

/** When, on what, by whom. */
function Circumstance({ entered, instrument }: { entered: Entered; instrument?: string }) {
  const words = [
    `${entered.about ? 'about ' : ''}${dayAndTime(entered.at)}`,
    entered.sent ? `sent by ${entered.on ?? 'the instrument'}` : (entered.on ?? instrument),
    entered.borrowed != null && `borrowed from ${entered.borrowed}`,
    entered.by_instructor && entered.borrowed == null && 'entered by an instructor',
    entered.confirmed && 'checked by the group',
    entered.struck.at(-1)?.reason,
  ]
  return words.filter(Boolean).join(', ')
}
