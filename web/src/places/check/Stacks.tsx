import { StateMark } from '@/ui'
import type { Stack } from './stacks'

/** Answers that are wrong, doubtful or right in the same way, wrong first. */
export function Stacks({
  stacks,
  chosen,
  onChoose,
}: {
  stacks: readonly Stack[]
  chosen: Stack
  onChoose: (stack: Stack) => void
}) {
  return (
    <section aria-labelledby="stacks">
      <h2 id="stacks" className="mb-1.5 text-note text-ink">
        stacks, wrong first
      </h2>
      <ul>
        {stacks.map((stack) => {
          const open = stack.judged.filter((j) => !j.reviewed).length
          return (
            <li key={stack.key} className="border-t border-rule last:border-b">
              <button
                type="button"
                aria-pressed={stack === chosen}
                className="grid w-full grid-cols-[1.6rem_minmax(0,1fr)_auto] items-baseline gap-x-2 py-2.5 text-left hover:bg-copper-wash aria-pressed:-ml-3 aria-pressed:w-[calc(100%+0.75rem)] aria-pressed:border-l-3 aria-pressed:border-copper aria-pressed:bg-copper-wash aria-pressed:pl-2.5"
                onClick={() => {
                  onChoose(stack)
                }}
              >
                <span className="text-lead font-semibold">{stack.judged.length}</span>
                <span>
                  <span className={stack.ratio ? 'font-semibold' : 'line-clamp-3'}>{stack.words}</span>{' '}
                  <StateMark kind={stack.state} />
                  <span className="block text-note text-slate">
                    {stack.judged.map((j) => j.sheet.name).join(', ')}
                  </span>
                  <span className="block text-note text-slate">
                    {open === 0 ? 'looked at' : open === stack.judged.length ? '' : `${open} to look at`}
                  </span>
                </span>
                <span className="font-mono text-note">{stack.ratio && `×${stack.ratio}`}</span>
              </button>
            </li>
          )
        })}
      </ul>
    </section>
  )
}
