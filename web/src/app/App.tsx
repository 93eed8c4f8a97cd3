import { lazy, Suspense } from 'react'
import { Route, Routes } from 'react-router'
import { BenchPlace, JoinPlace } from '@/places/bench'
import { DoorPlace } from '@/places/door'

/** A phone at a bench has no use for the desk: it is fetched when somebody opens it. */
const Desk = lazy(async () => ({ default: (await import('./Desk')).Desk }))

/** The places by their addresses. */
export function App() {
  return (
    <Routes>
      <Route path="/sign-in" element={<DoorPlace />} />
      <Route path="/join" element={<JoinPlace />} />
      <Route path="/join/:code" element={<JoinPlace />} />
      <Route path="/bench" element={<BenchPlace />} />
      <Route path="/bench/:step" element={<BenchPlace />} />
      <Route
        path="/*"
        element={
          <Suspense fallback={<main className="p-10 text-slate">Opening the desk …</main>}>
            <Desk />
          </Suspense>
        }
      />
    </Routes>
  )
}
