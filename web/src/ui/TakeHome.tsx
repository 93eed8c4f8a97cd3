import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { useState } from 'react'

/** The tables of a run, by the name that their address has. */
const TABLES = ['marks', 'readings', 'worked out', 'answers', 'observations'] as const

const LINK = 'inline-block min-h-8 py-1 text-copper-text underline underline-offset-4'

/** A run as files: a workbook with every table, or one table as text. */
export function TakeHome({ run, className }: { run: number; className?: string }) {
  const [names, setNames] = useState(false)
  const [comma, setComma] = useState(false)
  const at = `/api/v1/runs/${run}`
  const wanted = new URLSearchParams({ names: String(names) })
  const dialect = new URLSearchParams({ names: String(names), decimal: comma ? 'comma' : 'point' })
  return (
    <Popover className="relative inline-block">
      <PopoverButton className={className}>take it home</PopoverButton>
      <PopoverPanel
        anchor="bottom end"
        className="z-10 w-80 max-w-[90vw] border border-rule bg-sheet p-5 text-body text-ink shadow-lg"
      >
        <label className="mb-3 flex items-center gap-2">
          <input
            type="checkbox"
            className="size-5 accent-copper"
            checked={names}
            onChange={(event) => {
              setNames(event.target.checked)
            }}
          />
          with names of people
        </label>
        <p className="text-note text-slate">a workbook with every table</p>
        <p className="mb-3 flex gap-6">
          <a className={LINK} href={`${at}/export.xlsx?${wanted.toString()}`} download>
            XLSX
          </a>
          <a className={LINK} href={`${at}/export.ods?${wanted.toString()}`} download>
            ODS
          </a>
        </p>
        <p className="text-note text-slate">one table as text (CSV)</p>
        <ul className="mb-2 flex flex-wrap gap-x-5">
          {TABLES.map((name) => (
            <li key={name}>
              <a
                className={LINK}
                href={`${at}/tables/${name.replace(' ', '-')}.csv?${dialect.toString()}`}
                download
              >
                {name}
              </a>
            </li>
          ))}
          <li>
            <a className={LINK} href={`${at}/export.csv`} download>
              a row a group
            </a>
          </li>
        </ul>
        <label className="flex items-center gap-2 text-note text-slate">
          <input
            type="checkbox"
            className="size-5 accent-copper"
            checked={comma}
            onChange={(event) => {
              setComma(event.target.checked)
            }}
          />
          decimal comma, columns by semicolons
        </label>
      </PopoverPanel>
    </Popover>
  )
}
