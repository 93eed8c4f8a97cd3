import type { Advice } from '@/api'
import { StateMark } from '@/ui'
import { adviceWords } from '@/words'
import { TitreScale } from '../reading/TitreScale'

const line = {
  settled: 'border-teal text-teal',
  waiting: 'border-slate',
  doubtful: 'border-amber text-amber-text',
  wrong: 'border-magenta text-magenta',
} as const

/** What there is to tell at this step: what to do comes first. */
export function AdviceList({ advice }: { advice: readonly Advice[] }) {
  return (
    <div role="status" aria-label="advice">
      {advice.map((a, i) => (
        <div key={`${a.matter.kind} ${i}`} className={`mb-3 border-l-4 py-1 pl-3 ${line[a.standing]}`}>
          <p className="flex gap-3 font-semibold">
            <span className="shrink-0">
              <StateMark kind={a.standing} />
            </span>
            <span>{adviceWords(a)}</span>
          </p>
          {(a.matter.kind === 'titres-agree' || a.matter.kind === 'one-more') &&
            a.matter.titres.length > 1 && <TitreScale titres={a.matter.titres} limit={a.matter.limit} />}
        </div>
      ))}
    </div>
  )
}
