import { useParams } from 'react-router'
import type { PlanView } from '@/api'
import { Failure } from '@/ui'
import { FormView } from './form/FormView'
import { History } from './history/History'
import { PlanHead } from './PlanHead'
import { RiskSheet } from './print/RiskSheet'
import { StudentSheet } from './print/StudentSheet'
import { TextView } from './text/TextView'
import { useChanges, usePlan, type Changes } from './usePlan'

/** Where a practical is designed: what is used and done, what follows from it, and the text that it is. */
export function PlanPlace() {
  const { practical: id = '', view: shown = '' } = useParams()
  const plan = usePlan(id)
  if (plan.isPending) return <p className="py-12 text-slate">Opening the plan …</p>
  if (plan.isError) return <Failure error={plan.error}>The shelf has what there is.</Failure>
  return <Opened key={id} view={plan.data} shown={shown} />
}

function Opened({ view, shown }: { view: PlanView; shown: string }) {
  const changes = useChanges(view.id)
  return (
    <>
      <PlanHead view={view} shown={shown} changes={changes} />
      <View view={view} shown={shown} changes={changes} />
    </>
  )
}

function View({ view, shown, changes }: { view: PlanView; shown: string; changes: Changes }) {
  switch (shown) {
    case 'text':
      return <TextView view={view} changes={changes} />
    case 'history':
      return <History view={view} />
    case 'student':
      return <StudentSheet view={view} />
    case 'risk':
      return <RiskSheet view={view} />
    default:
      return <FormView view={view} changes={changes} />
  }
}
