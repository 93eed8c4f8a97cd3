import type { BenchView } from '@/api'
import { setUnit } from '@/ui'

/** What this group was given that others were not: its recipe with its amounts, the code of its unknown. */
export function Given({ view }: { view: BenchView }) {
  const { assignment, unknown, amounts } = view.allotted
  if (assignment == null && unknown == null) return null
  return (
    <p className="mt-1 text-body">
      <b className="font-semibold text-copper-text">
        {assignment ?? 'Your unknown'}
        {unknown != null && !(assignment ?? '').includes(unknown) && ` ${unknown}`}
      </b>
      {amounts.map(([material, amount]) => (
        <span key={material} className="text-slate">
          {' · '}
          {material} {setUnit(amount ?? '')}
        </span>
      ))}
    </p>
  )
}
