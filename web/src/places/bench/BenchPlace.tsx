import { Link, Navigate, useParams } from 'react-router'
import { Refused } from '@/api'
import { Failure } from '@/ui'
import { AtTheBench } from './AtTheBench'
import { useBench } from './useBench'

/** The bench of the group that this device belongs to. */
export function BenchPlace() {
  const bench = useBench()
  const { step } = useParams()
  const signedOut = bench.error instanceof Refused && bench.error.status === 401
  if (bench.data) {
    return (
      <>
        {signedOut && (
          <p role="alert" className="border-b border-magenta bg-paper py-2 pr-4 pl-14 text-body">
            This device is no longer with {bench.data.view.group}. What it holds is kept.{' '}
            <Link to="/join" className="inline-block min-h-11 font-semibold underline underline-offset-4">
              Join again
            </Link>
          </p>
        )}
        <AtTheBench view={bench.data.view} contact={bench.data.contact} at={step} />
      </>
    )
  }
  if (bench.isPending) return <main className="p-8 text-bench text-slate">Setting out your bench …</main>
  if (signedOut) return <Navigate to="/join" replace />
  return (
    <main className="p-8 text-bench">
      <Failure error={bench.error}>
        <p>What you typed before is kept on this device.</p>
        <button type="button" className="action min-h-14" onClick={() => void bench.refetch()}>
          Try again
        </button>
      </Failure>
    </main>
  )
}
