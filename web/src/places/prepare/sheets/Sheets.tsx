import { useState } from 'react'
import { useSession, type PreparationView } from '@/api'
import { DoorNotice } from './DoorNotice'
import { JoinSheet } from './JoinSheet'
import { OrderList } from './OrderList'
import { TrayCards } from './TrayCards'
import { PrintButton } from '@/ui'

const SHEETS = ['order list', 'tray cards', 'door notice', 'join sheet'] as const

type SheetName = (typeof SHEETS)[number]

/** What is printed for a lesson: one sheet at a time. */
export function Sheets({ of }: { of: PreparationView }) {
  const [shown, setShown] = useState<SheetName>('order list')
  const session = useSession()
  // The PINs open a group's bench: they are its instructor's to give out.
  const names = SHEETS.filter(
    (s) => s !== 'join sheet' || (of.run != null && session.data?.role === 'instructor'),
  )
  return (
    <div>
      <div
        role="radiogroup"
        aria-label="sheet"
        className="mb-6 flex flex-wrap items-center gap-x-6 gap-y-2 print:hidden"
      >
        {names.map((name) => (
          <label key={name} className="flex min-h-11 items-center gap-2">
            <input
              type="radio"
              name="sheet"
              className="size-5 accent-copper"
              checked={shown === name}
              onChange={() => {
                setShown(name)
              }}
            />
            {name}
          </label>
        ))}
        <PrintButton />
      </div>
      <Shown of={of} name={shown} />
    </div>
  )
}

function Shown({ of, name }: { of: PreparationView; name: SheetName }) {
  switch (name) {
    case 'order list':
      return <OrderList of={of} />
    case 'tray cards':
      return <TrayCards of={of} />
    case 'door notice':
      return <DoorNotice of={of} />
    case 'join sheet':
      return of.run == null ? null : <JoinSheet run={of.run} />
  }
}
