import { useState } from 'react'
import type { PlannedLesson, PreparationView } from '@/api'
import { clockTime, Failure, StateMark } from '@/ui'
import { busyWords, fitWords, noPlanWords, offWords, provedWords, remedyWords, thenWords } from '@/words'
import { Count } from './Choices'
import { Lanes } from './Lanes'
import { Returns } from './Returns'
import { usePreparing } from './usePreparation'

/** Whether it fits the lessons, who does what when, and what would make it fit. */
export function RoomTime({ of }: { of: PreparationView }) {
  const { lessons, visits, unsaid } = of.preparation.time
  return (
    <div>
      {of.run != null && <RoomChoices of={of} run={of.run} />}
      {lessons.length > visits && (
        <p className="mb-4 text-amber-text">
          It falls into {lessons.length} parts on different days; the practical says {visits}{' '}
          {visits === 1 ? 'lesson' : 'lessons'}. A short part may be done by somebody in between.
        </p>
      )}
      {offWords(of.visits).map((words) => (
        <p key={words} className="mb-2 text-amber-text">
          {words}
        </p>
      ))}
      {lessons.map((lesson, i) => (
        <Lesson key={i} of={of} lesson={lesson} nr={i + 1} />
      ))}
      {unsaid.length > 0 && (
        <p className="text-note text-slate">
          Without a time in the practical, and so not counted: {unsaid.join(', ')}.
        </p>
      )}
    </div>
  )
}

function RoomChoices({ of, run }: { of: PreparationView; run: number }) {
  const { choose } = usePreparing(run)
  const { choices } = of
  const shared = of.preparation.things.filter((t) => t.serves != null)
  return (
    <div className="mb-6 print:hidden">
      <div className="flex flex-wrap items-end gap-4">
        <Count
          key={`lesson ${choices.lesson_minutes ?? ''}`}
          label="minutes of a lesson"
          value={of.preparation.time.lessons[0]?.minutes ?? 90}
          onChosen={(lesson_minutes) => {
            choose.mutate({ ...choices, lesson_minutes })
          }}
        />
        {shared.map((t) => (
          <Count
            key={`${t.name} ${t.count}`}
            label={t.name}
            value={t.count}
            onChosen={(count) => {
              choose.mutate({ ...choices, resources: { ...choices.resources, [t.name]: count } })
            }}
          />
        ))}
      </div>
      {choose.isError && <Failure error={choose.error}>What was chosen before is kept.</Failure>}
    </div>
  )
}

function Lesson({ of, lesson, nr }: { of: PreparationView; lesson: PlannedLesson; nr: number }) {
  // Where there are other parts than lessons, nobody knows when a later part is.
  const known = nr === 1 || of.visits.length === of.preparation.time.lessons.length
  const visit = known ? of.visits[nr - 1] : undefined
  const tooLong = lesson.timetable == null || lesson.timetable.makespan > lesson.minutes
  const tight = !tooLong && lesson.slow != null && lesson.slow > lesson.minutes
  return (
    <section aria-label={`lesson ${nr}`} className="mb-10 break-inside-avoid">
      <h2 className="text-lead">
        Lesson {nr}
        {visit && <span className="text-slate">, from {clockTime(visit.begins_at)}</span>}
      </h2>
      <p className="mb-1 flex flex-wrap items-baseline gap-x-3">
        <StateMark kind={tooLong ? 'wrong' : tight ? 'doubtful' : 'settled'} />
        <span className={tooLong ? 'font-semibold text-magenta' : ''}>
          {fitWords(lesson, of.groups.length)}
        </span>
        <span className="text-note text-slate">{provedWords(lesson)}</span>
      </p>
      {lesson.no_plan != null && <p className="text-magenta">{noPlanWords(lesson)}</p>}
      {lesson.remedies.length > 0 && (
        <ul className="mb-2 border-l-3 border-copper pl-3">
          {lesson.remedies.map((remedy) => (
            <li key={remedyWords(remedy)}>{remedyWords(remedy)}</li>
          ))}
        </ul>
      )}
      <Lanes lesson={lesson} groups={of.groups} begins={visit?.begins_at ?? null} />
      {lesson.shared.length > 0 && (
        <p className="mt-1 text-note text-slate">
          {lesson.shared.map((s) => `${s.count} × ${s.name}, ${busyWords(s.busy)}`).join(' · ')}
        </p>
      )}
      <p className="mt-1 text-slate">{thenWords(lesson)}</p>
      <Returns of={of} after={nr} />
      <Turns lesson={lesson} groups={of.groups} begins={visit?.begins_at ?? null} />
    </section>
  )
}

/** Who has what when: a line for each group, to be cut into slips. */
function Turns({
  lesson,
  groups,
  begins,
}: {
  lesson: PlannedLesson
  groups: readonly string[]
  begins: number | null
}) {
  const [open, setOpen] = useState(false)
  if (lesson.turns.length === 0) return null
  const at = (minute: number) => (begins == null ? `min ${minute}` : clockTime(begins + minute * 60_000))
  return (
    <details
      className="mt-2"
      open={open}
      onToggle={(event) => {
        setOpen(event.currentTarget.open)
      }}
    >
      <summary className="min-h-6 print:hidden">who has what when, to print and cut into slips</summary>
      <table className="mt-2 w-full border-collapse">
        <caption className="sr-only">turns at what is shared</caption>
        <tbody>
          {groups.map((name, group) => (
            <tr key={name} className="border-t border-dashed border-pencil align-baseline last:border-b">
              <th scope="row" className="py-2 pr-6 text-left font-semibold whitespace-nowrap">
                {name}
              </th>
              <td className="py-2">
                {lesson.turns
                  .filter((t) => t.group === group)
                  .sort((a, b) => a.from - b.from)
                  .map((t) => (
                    <span key={`${t.resource} ${t.from}`} className="mr-6 inline-block">
                      {t.resource} {t.unit} <span className="font-mono">{at(t.from)}</span>
                    </span>
                  ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  )
}
