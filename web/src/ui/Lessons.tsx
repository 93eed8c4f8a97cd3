import { lessonAfter, type Lesson } from './lessonTimes'

/** When a run is worked on: one line a lesson. */
export function Lessons({
  lessons,
  onChange,
}: {
  lessons: readonly Lesson[]
  onChange: (lessons: readonly Lesson[]) => void
}) {
  const set = (at: number, to: Partial<Lesson>) => {
    onChange(lessons.map((l, i) => (i === at ? { ...l, ...to } : l)))
  }
  const last = lessons.at(-1)
  return (
    <fieldset className="mb-3 text-note text-slate">
      <legend className="mb-1">lessons, and minutes of each</legend>
      {lessons.map((lesson, i) => (
        <div key={i} className="mb-1 flex gap-1">
          <input
            type="datetime-local"
            aria-label={`lesson ${i + 1} begins`}
            className="field min-w-0 grow px-1 text-ink"
            required
            value={lesson.begins}
            onChange={(event) => {
              set(i, { begins: event.target.value })
            }}
          />
          <input
            type="number"
            aria-label={`minutes of lesson ${i + 1}`}
            className="field w-14 px-1 text-ink"
            min={1}
            max={600}
            required
            value={lesson.minutes}
            onChange={(event) => {
              set(i, { minutes: Number(event.target.value) })
            }}
          />
        </div>
      ))}
      <span className="flex gap-4">
        <button
          type="button"
          className="min-h-6 text-copper-text underline underline-offset-4"
          onClick={() => {
            onChange([...lessons, lessonAfter(last)])
          }}
        >
          one more
        </button>
        {lessons.length > 1 && (
          <button
            type="button"
            className="min-h-6 text-copper-text underline underline-offset-4"
            onClick={() => {
              onChange(lessons.slice(0, -1))
            }}
          >
            one less
          </button>
        )}
      </span>
    </fieldset>
  )
}
