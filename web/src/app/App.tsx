import { Link, Navigate, Route, Routes } from 'react-router'
import { AccountPlace } from '@/places/account'
import { BenchPlace, JoinPlace } from '@/places/bench'
import { BoardPlace, GroupPlace, LabelsPlace, PeoplePlace, ProjectorPlace } from '@/places/board'
import { CheckPlace } from '@/places/check'
import { DoorPlace } from '@/places/door'
import { HandbookPlace } from '@/places/handbook'
import { BeginPlace, PlanPlace } from '@/places/plan'
import { BottlePlace, CalendarPlace, PreparationPlace, PreparePlace, StockPlace } from '@/places/prepare'
import { GroupRecord, ImportPage, KeepingPage, RecordPlace, RunRecord, StudentRecord } from '@/places/record'
import { ClassesPage, ShelfPlace } from '@/places/shelf'
import { Frame } from './Frame'

/** The places by their addresses. */
export function App() {
  return (
    <Routes>
      <Route path="/sign-in" element={<DoorPlace />} />
      <Route path="/join" element={<JoinPlace />} />
      <Route path="/join/:code" element={<JoinPlace />} />
      <Route path="/bench" element={<BenchPlace />} />
      <Route path="/bench/:step" element={<BenchPlace />} />
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
