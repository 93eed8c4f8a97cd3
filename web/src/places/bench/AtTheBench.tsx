import { useMemo } from 'react'
import { Navigate } from 'react-router'
import type { BenchView } from '@/api'
import { useServerClock } from '@/ui'
import { Alarms } from './Alarms'
import { BenchBar } from './BenchBar'
import { Foot } from './Foot'
import { LeftToWait } from './step/LeftToWait'
import { Messages } from './Messages'
import { SheetPage } from './answer/SheetPage'
import { benchNow, nextStep } from './standing'
import { StepPage } from './step/StepPage'
import { TickRail } from './step/TickRail'
import { useEntering, type Contact } from './useBench'

/** One step at a time beside the rail of all steps; at the foot what this device still holds. */
export function AtTheBench({
  view,
  contact,
  at,
}: {
  view: BenchView
  contact: Contact
  at: string | undefined
}) {
  const entering = useEntering(view, contact)
  const now = useMemo(() => benchNow(view, entering.onTheirWay), [view, entering.onTheirWay])
  const time = useServerClock(view.now)
  const onSheet = at === 'sheet'
  const step = Number(at) - 1
  if (!onSheet && !(Number.isInteger(step) && step >= 0 && step < view.steps.length)) {
    return <Navigate to={`/bench/${nextStep(view, now) + 1}`} replace />
  }
  return (
    <div className="mx-auto min-h-dvh max-w-[46rem] pl-14 text-bench">
      <TickRail view={view} now={now} at={onSheet ? null : step} />
      <main className="flex min-h-dvh flex-col pr-4">
        <Alarms view={view} now={now} time={time} at={onSheet ? null : step} />
        <Messages view={view} heard={now.heard} onEnter={entering.enter} />
        {view.paused && !view.closed && (
          <p role="status" className="border-l-8 border-amber py-2 pl-3 text-amber-text">
            Listen, please. What you enter is kept on this device and sent when your teacher continues.
          </p>
        )}
        <LeftToWait view={view} time={time} step={onSheet ? null : step} />
        {view.closed && (
          <p role="status" className="border-l-3 border-slate py-2 pl-3 text-slate">
            The run is closed. No more readings. Calculations can still be sent, from home too, until they are
            given back.
          </p>
        )}
        {onSheet ? (
          <SheetPage view={view} now={now} entering={entering} />
        ) : (
          <StepPage key={step} view={view} now={now} entering={entering} step={step} time={time} />
        )}
        <BenchBar view={view} now={now} step={onSheet ? null : step} onEnter={entering.enter} />
        <Foot view={view} entering={entering} at={onSheet ? null : step} />
      </main>
    </div>
  )
}
