import { lazy, type ComponentType } from 'react'
import { Link, Navigate, Route, Routes } from 'react-router'
import { Frame } from './Frame'

/** A place of the desk, fetched when it is opened first. */
function place(load: () => Promise<ComponentType>) {
  return lazy(async () => ({ default: await load() }))
}

const AccountPlace = place(async () => (await import('@/places/account')).AccountPlace)
const BoardPlace = place(async () => (await import('@/places/board')).BoardPlace)
const GroupPlace = place(async () => (await import('@/places/board')).GroupPlace)
const LabelsPlace = place(async () => (await import('@/places/board')).LabelsPlace)
const PeoplePlace = place(async () => (await import('@/places/board')).PeoplePlace)
const ProjectorPlace = place(async () => (await import('@/places/board')).ProjectorPlace)
const HandbookPlace = place(async () => (await import('@/places/handbook')).HandbookPlace)
const BeginPlace = place(async () => (await import('@/places/plan')).BeginPlace)
const PlanPlace = place(async () => (await import('@/places/plan')).PlanPlace)
const BottlePlace = place(async () => (await import('@/places/prepare')).BottlePlace)
const CalendarPlace = place(async () => (await import('@/places/prepare')).CalendarPlace)
const PreparationPlace = place(async () => (await import('@/places/prepare')).PreparationPlace)
const PreparePlace = place(async () => (await import('@/places/prepare')).PreparePlace)
const StockPlace = place(async () => (await import('@/places/prepare')).StockPlace)
const BalancePage = place(async () => (await import('@/places/practice')).BalancePage)
const BurettePage = place(async () => (await import('@/places/practice')).BurettePage)
const PracticePlace = place(async () => (await import('@/places/practice')).PracticePlace)
const ProblemPage = place(async () => (await import('@/places/practice')).ProblemPage)
const ScalesPage = place(async () => (await import('@/places/practice')).ScalesPage)
const SlipPage = place(async () => (await import('@/places/practice')).SlipPage)
const GroupRecord = place(async () => (await import('@/places/record')).GroupRecord)
const ImportPage = place(async () => (await import('@/places/record')).ImportPage)
const KeepingPage = place(async () => (await import('@/places/record')).KeepingPage)
const RecordPlace = place(async () => (await import('@/places/record')).RecordPlace)
const RunRecord = place(async () => (await import('@/places/record')).RunRecord)
const StudentRecord = place(async () => (await import('@/places/record')).StudentRecord)
const ClassesPage = place(async () => (await import('@/places/shelf')).ClassesPage)
const ShelfPlace = place(async () => (await import('@/places/shelf')).ShelfPlace)
const CheckPlace = lazy(async () => ({ default: (await import('@/places/check')).CheckPlace }))

/** The desk's places by their addresses. */
export function Desk() {
  return (
    <Routes>
      <Route path="/board/:run/projector" element={<ProjectorPlace />} />
      <Route element={<Frame />}>
        <Route path="/" element={<Navigate to="/shelf" replace />} />
        <Route path="/shelf" element={<ShelfPlace />} />
        <Route path="/shelf/begin" element={<BeginPlace />} />
        <Route path="/shelf/classes" element={<ClassesPage />} />
        <Route path="/shelf/classes/:id" element={<ClassesPage />} />
        <Route path="/plan/:practical" element={<PlanPlace />} />
        <Route path="/plan/:practical/:view" element={<PlanPlace />} />
        <Route path="/prepare" element={<PreparePlace />} />
        <Route path="/prepare/calendar" element={<CalendarPlace />} />
        <Route path="/prepare/bottles/:bottle" element={<BottlePlace />} />
        <Route path="/prepare/stock" element={<StockPlace />} />
        <Route path="/prepare/as-if/:practical" element={<PreparationPlace />} />
        <Route path="/prepare/as-if/:practical/:part" element={<PreparationPlace />} />
        <Route path="/prepare/as-if/:practical/:part/:material" element={<PreparationPlace />} />
        <Route path="/prepare/:run" element={<PreparationPlace />} />
        <Route path="/prepare/:run/:part" element={<PreparationPlace />} />
        <Route path="/prepare/:run/:part/:material" element={<PreparationPlace />} />
        <Route path="/board/:run" element={<BoardPlace />} />
        <Route path="/board/:run/people" element={<PeoplePlace />} />
        <Route path="/board/:run/labels" element={<LabelsPlace />} />
        <Route path="/board/:run/groups/:group" element={<GroupPlace />} />
        <Route path="/check/:run" element={<CheckPlace />} />
        <Route path="/check/:run/marks" element={<CheckPlace part="marks" />} />
        <Route path="/check/:run/paper" element={<CheckPlace part="paper" />} />
        <Route path="/check/:run/class" element={<CheckPlace part="class" />} />
        <Route path="/check/:run/:result" element={<CheckPlace />} />
        <Route path="/record" element={<RecordPlace />} />
        <Route path="/record/keeping" element={<KeepingPage />} />
        <Route path="/record/people/:person" element={<StudentRecord />} />
        <Route path="/record/:run" element={<RunRecord />} />
        <Route path="/record/:run/import" element={<ImportPage />} />
        <Route path="/record/:run/groups/:group" element={<GroupRecord />} />
        <Route path="/practice" element={<PracticePlace />} />
        <Route path="/practice/scales" element={<ScalesPage />} />
        <Route path="/practice/balance" element={<BalancePage />} />
        <Route path="/practice/:practical" element={<ProblemPage />} />
        <Route path="/practice/:practical/slip" element={<SlipPage />} />
        <Route path="/practice/:practical/titration" element={<BurettePage />} />
        <Route path="/account" element={<AccountPlace />} />
        <Route path="/handbook" element={<HandbookPlace />} />
        <Route path="/handbook/:page" element={<HandbookPlace />} />
        <Route path="/handbook/:page/:question" element={<HandbookPlace />} />
        <Route path="*" element={<Lost />} />
      </Route>
    </Routes>
  )
}

function Lost() {
  return (
    <p className="py-12 text-lead">
      Nothing has this address. The{' '}
      <Link to="/shelf" className="border-b border-copper">
        shelf
      </Link>{' '}
      is where everything starts.
    </p>
  )
}
