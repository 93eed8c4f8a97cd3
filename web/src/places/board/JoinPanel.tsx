import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/react'
import type { Board } from '@/api'
import { Devices } from './Devices'

/** How a group joins, large, for everybody to see; the PINs that second devices need are shown when they are asked for. */
export function JoinPanel({ board }: { board: Board }) {
  return (
    <section
      aria-label="join code"
      className="mb-6 grid gap-x-10 gap-y-6 border-y border-copper py-6 grid-cols-[minmax(0,1fr)] items-start tablet:grid-cols-[11rem_minmax(0,1fr)_minmax(0,1fr)] print:hidden"
    >
      {/* A code is read by cameras: dark on white in either theme. */}
      <div className="max-w-44 bg-white p-2">
        <img
          src={`/api/v1/runs/${board.run.id}/join.svg`}
          alt={`code for ${board.join_address}`}
          className="block w-full"
        />
      </div>
      <div>
        <p className="text-slate">Open</p>
        <p className="font-mono text-lead break-all">{board.join_address}</p>
        <p className="mt-3 text-slate">or join with the code</p>
        <p className="font-mono text-value">{board.run.code}</p>
      </div>
      <div>
        <Pins board={board} />
        <Devices board={board} />
      </div>
    </section>
  )
}

/** Each opens a group's bench on another device: not for a wall, so they are shown only when somebody asks. */
function Pins({ board }: { board: Board }) {
  return (
    <Disclosure as="div">
      <p className="mb-1 text-note text-slate">
        A group’s first device needs nothing more. A second one needs the group’s PIN.
      </p>
      <DisclosureButton className="min-h-8 text-copper-text underline underline-offset-4">
        {({ open }) => <>{open ? 'hide the PINs' : 'show the PINs'}</>}
      </DisclosureButton>
      <DisclosurePanel as="ul" className="mt-1 columns-2 gap-8">
        {board.rows.map((row) => (
          <li key={row.group} className="flex break-inside-avoid justify-between gap-4 py-0.5">
            <span>
              {row.name}
              <span className="text-note text-slate">{row.claimed ? '' : ' · not here yet'}</span>
            </span>
            <span className="font-mono">{row.pin}</span>
          </li>
        ))}
      </DisclosurePanel>
    </Disclosure>
  )
}
