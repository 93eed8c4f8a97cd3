import { Link } from 'react-router'
import type { Answerer, BenchMark, CheckView } from '@/api'
import { StateMark, Download } from '@/ui'
import { answerState, answerWords, benchMarkName, benchMarkWords } from '@/words'

const shown = (marks: number) => (Number.isInteger(marks) ? String(marks) : marks.toFixed(1))

/** Marks of every sheet, by result; what was set by hand is underlined. */
export function Marks({ view }: { view: CheckView }) {
  // Alike on every sheet: what the practical gives marks for at the bench.
  const bench = view.answerers[0]?.bench_marks ?? []
  const rows = view.answerers.map((who) => ({ who, sheet: view.sheets.find((s) => s.key === who.key) }))
  const most = [...view.results, ...bench].reduce((sum, r) => sum + r.most, 0)
  return (
    <>
      <p className="mb-3 flex flex-wrap justify-between gap-x-8 text-slate">
        <span>
          Carried forward earns its marks; a slip, a unit and digits are lost once for a sheet. Weights stand
          in the practical.
        </span>
        <Download run={view.run.id} className="underline underline-offset-4" />
      </p>
      <div className="overflow-x-auto">
        <table className="w-full border-collapse">
          <caption className="sr-only">marks</caption>
          <thead>
            <tr className="border-b border-ink align-bottom text-note">
              <th scope="col" className="py-2 pr-4 text-left font-normal">
                sheet
              </th>
              {view.results.map((r) => (
                <th key={r.name} scope="col" className="px-3 py-2 text-right font-normal">
                  {r.label}
                  <span className="block text-slate">of {shown(r.most)}</span>
                </th>
              ))}
              {bench.map((m) => (
                <th key={m.found.kind} scope="col" className="px-3 py-2 text-right font-normal">
                  {benchMarkName(m)}
                  <span className="block text-slate">of {shown(m.most)}, at the bench</span>
                </th>
              ))}
              <th scope="col" className="py-2 pl-4 text-right font-semibold">
                total
                <span className="block font-normal text-slate">of {shown(most)}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ who, sheet }) => (
              <tr key={who.key} className="border-b border-rule align-baseline">
                <th scope="row" className="py-2 pr-4 text-left font-normal">
                  {who.name}
                </th>
                {view.results.map((r) => {
                  const verdict = sheet?.verdicts[r.name]
                  const review = sheet?.reviews[r.name]
                  const byHand =
                    review?.current === true && (review.marks != null || review.ruling !== 'as-judged')
                  return (
                    <td key={r.name} className="px-3 py-2 text-right whitespace-nowrap">
                      {verdict ? (
                        <Link
                          to={`/check/${view.run.id}/${r.name}?sheet=${who.key}`}
                          className={`font-mono ${byHand ? 'border-b-2 border-copper' : ''}`}
                          title={answerWords(verdict)}
                        >
                          {shown(sheet.given[r.name] ?? 0)}{' '}
                          <StateMark kind={answerState(verdict)} word={answerWords(verdict)} />
                        </Link>
                      ) : (
                        <span className="text-slate">
                          {sheet?.given[r.name] !== undefined
                            ? `${shown(sheet.given[r.name] ?? 0)}, left out on the way`
                            : 'no answer'}
                        </span>
                      )}
                    </td>
                  )
                })}
                {who.bench_marks.map((m) => (
                  <AtTheBench key={m.found.kind} mark={m} />
                ))}
                <td className="py-2 pl-4 text-right font-mono font-semibold">
                  {shown(together(who, sheet))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {view.answerers.length === 0 && <p className="py-4 text-slate">Nobody sits at a bench yet.</p>}
    </>
  )
}

const together = (who: Answerer, sheet: CheckView['sheets'][number] | undefined) =>
  [...Object.values(sheet?.given ?? {}), ...who.bench_marks.map((m) => m.marks)].reduce((a, b) => a + b, 0)

function AtTheBench({ mark }: { mark: BenchMark }) {
  return (
    <td className="px-3 py-2 text-right">
      <span className="font-mono">{shown(mark.marks)}</span>
      {mark.marks < mark.most && <span className="block text-note text-slate">{benchMarkWords(mark)}</span>}
    </td>
  )
}
