import type { PreparationView } from '@/api'
import { clockTime, day, HazardMark } from '@/ui'

/** For the door: who works here until when, and with what. */
export function DoorNotice({ of }: { of: PreparationView }) {
  const next = of.visits.find((v) => v.begins_at + v.minutes * 60_000 > of.now)
  const marks = [...new Set(of.preparation.materials.flatMap((m) => m.pictograms))]
  return (
    <article aria-label="door notice" className="mx-auto max-w-[50rem] border-4 border-ink p-8 text-center">
      <p className="text-board">Practical in progress</p>
      <p className="mt-4 text-title">{of.title}</p>
      {of.class !== '' && <p className="text-lead">{of.class}</p>}
      <p className="mt-6 text-value">
        {next === undefined ? (
          'in use until ________'
        ) : (
          <>
            in use until{' '}
            <span className="font-mono">{clockTime(next.begins_at + next.minutes * 60_000)}</span>
          </>
        )}
      </p>
      {next && <p className="text-slate">{day(next.begins_at)}</p>}
      <p className="my-6">
        {marks.map((mark) => (
          <HazardMark key={mark} kind={mark} size={72} />
        ))}
      </p>
      <p className="text-lead">Goggles on. No food or drink.</p>
    </article>
  )
}
