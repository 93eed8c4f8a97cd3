import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { useState } from 'react'
import { Tick } from './Tick'

/** The tables of a run, by the name that their address has. */
const TABLES = ['marks', 'readings', 'worked out', 'answers', 'observations'] as const

const LINK = 'inline-block min-h-8 py-1 text-copper-text underline underline-offset-4'

/** A run as files: a workbook with every table, or one table as text. */
export function Download({ run, className }: { run: number; className?: string }) {
  const [names, setNames] = useState(false)
  const [comma, setComma] = useState(false)
  const at = `/api/v1/runs/${run}`
  const wanted = new URLSearchParams({ names: String(names) })
  const dialect = new URLSearchParams({ names: String(names), decimal: comma ? 'comma' : 'point' })
  return (
    <Popover className="relative inline-block">
      <PopoverButton className={className}>download</PopoverButton>
      <PopoverPanel
        anchor="bottom end"
        className="z-10 w-80 max-w-[90vw] border border-rule bg-sheet p-5 text-body text-ink shadow-lg"
      >
        <Tick ticked={names} onTick={setNames} className="mb-3">
          with names of people
        </Tick>
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
              one row per group
            </a>
          </li>
        </ul>
        <Tick ticked={comma} onTick={setComma} className="text-note text-slate">
          decimal comma, semicolons between columns
        </Tick>
        <p className="mt-3 border-t border-rule pt-3 text-note text-slate">
          everything, to be read on another server
        </p>
        <a className={LINK} href={`${at}/whole.zip?${wanted.toString()}`} download>
          the whole run
        </a>
      </PopoverPanel>
    </Popover>
  )
}
