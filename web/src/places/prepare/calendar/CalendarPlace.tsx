import { useState } from 'react'
import { Link } from 'react-router'
import type { SchoolCalendar, SchoolDay } from '@/api'
import { Failure } from '@/ui'
import { DaysOffList } from './DaysOffList'
import { FromFile } from './FromFile'
import { PeriodList } from './PeriodList'
import { useCalendar } from './useCalendar'
import { YearRule } from './YearRule'

const WEEK: readonly SchoolDay[] = [
  'monday',
  'tuesday',
  'wednesday',
  'thursday',
  'friday',
  'saturday',
  'sunday',
]

/** When there is school: its days, its bell, when it is closed. */
export function CalendarPlace() {
  const { calendar } = useCalendar()
  if (calendar.isPending) return <p className="py-12 text-slate">Opening the calendar …</p>
  if (calendar.isError) return <Failure error={calendar.error} />
  return <Editing key={JSON.stringify(calendar.data)} kept={calendar.data} />
}

function Editing({ kept }: { kept: SchoolCalendar }) {
  const [typed, setTyped] = useState(kept)
  const { keep } = useCalendar()
  const set = (part: Partial<SchoolCalendar>) => {
    setTyped({ ...typed, ...part })
  }
  const changed = JSON.stringify(typed) !== JSON.stringify(kept)
  return (
    <div className="border-l border-copper pl-4 tablet:pl-8">
      <div className="mb-4 flex flex-wrap items-baseline gap-x-8 gap-y-2">
        <h1 className="text-title">Calendar</h1>
        <Link to="/prepare" className="min-h-6 text-copper-text underline underline-offset-4 print:hidden">
          what is to prepare
        </Link>
        <a
          className="min-h-6 text-copper-text underline underline-offset-4 print:hidden"
          href="/api/v1/calendar.ics"
          download
        >
          lessons as iCalendar
        </a>
      </div>
      <YearRule daysOff={typed.days_off} />
      <form
        aria-label="calendar"
        className="grid grid-cols-[minmax(0,1fr)] gap-x-12 gap-y-8 tablet:grid-cols-[2fr_3fr]"
        onSubmit={(event) => {
          event.preventDefault()
          keep.mutate(typed)
        }}
      >
        <div className="flex flex-col gap-8">
          <fieldset className="min-w-0">
            <legend className="mb-2 text-lead">days with lessons</legend>
            <div className="flex flex-wrap gap-x-5">
              {WEEK.map((day) => (
                <label key={day} className="flex min-h-8 items-center gap-2">
                  <input
                    type="checkbox"
                    className="size-4 accent-copper"
                    checked={typed.school_days.includes(day)}
                    onChange={(event) => {
                      const others = typed.school_days.filter((d) => d !== day)
                      const all = event.target.checked ? [...others, day] : others
                      set({ school_days: WEEK.filter((d) => all.includes(d)) })
                    }}
                  />
                  {`${day[0]?.toUpperCase()}${day.slice(1, 3)}`}
                </label>
              ))}
            </div>
          </fieldset>
          <PeriodList
            periods={typed.periods}
            onChange={(periods) => {
              set({ periods })
            }}
          />
          <label className="flex flex-col gap-1">
            <span className="text-note text-slate">time zone</span>
            <input
              className="field w-full max-w-64 font-mono"
              maxLength={60}
              value={typed.zone}
              onChange={(event) => {
                set({ zone: event.target.value })
              }}
            />
          </label>
        </div>
        <DaysOffList
          daysOff={typed.days_off}
          onChange={(days_off) => {
            set({ days_off })
          }}
        />
        <p className="tablet:col-span-2">
          <button type="submit" className="action" disabled={!changed || keep.isPending}>
            {changed || !keep.isSuccess ? 'Keep the calendar' : 'Kept'}
          </button>
          {keep.isError && <Failure error={keep.error}>The calendar is as it was.</Failure>}
        </p>
      </form>
      <FromFile
        onTaken={(periods, daysOff) => {
          set({
            periods: [...typed.periods, ...periods].sort((a, b) => a.from.localeCompare(b.from)),
            days_off: [...typed.days_off, ...daysOff].sort((a, b) => a.from.localeCompare(b.from)),
          })
        }}
      />
    </div>
  )
}
