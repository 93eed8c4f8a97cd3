import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import { useMemo, useState } from 'react'
import { useKeys } from '@/ui'

const KEYS: readonly (readonly [string, string])[] = [
  ['?', 'this sheet'],
  ['d', 'board: next value to look at'],
  ['m', 'board: tell all groups'],
  ['j', 'board: show or hide the join code · check: next stack'],
  ['k', 'check: previous stack'],
  ['n', 'check: next group of the stack'],
  ['a', 'check: accept all alike, and go on'],
  ['o c e', 'check: override, comment, evidence'],
  ['r', 'check: give back'],
  ['1 2 3', 'check: first, second, third result'],
  ['1 to 5', 'prepare: amounts, solutions, trays, labels, time'],
  ['Ctrl Z', 'plan: undo, with Shift redo'],
  ['Ctrl S', 'plan as text: keep it now'],
  ['Esc', 'close what is open'],
]

/** All keys, on `?`. */
export function KeySheet() {
  const [open, setOpen] = useState(false)
  useKeys(
    useMemo(
      () => ({
        '?': () => {
          setOpen(true)
        },
      }),
      [],
    ),
  )
  return (
    <Dialog open={open} onClose={setOpen} className="relative z-10">
      <div className="fixed inset-0 bg-ink opacity-30" aria-hidden="true" />
      <div className="fixed inset-0 grid place-items-center p-6">
        <DialogPanel className="w-full max-w-md border-l-3 border-copper bg-paper p-8">
          <DialogTitle className="mb-4 text-lead font-semibold">Keys</DialogTitle>
          <dl className="grid grid-cols-[auto_1fr] gap-x-6 gap-y-2">
            {KEYS.map(([key, does]) => (
              <div key={key} className="contents">
                <dt className="font-mono font-semibold">{key}</dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
          <button
            type="button"
            className="action mt-6"
            onClick={() => {
              setOpen(false)
            }}
          >
            Close
          </button>
        </DialogPanel>
      </div>
    </Dialog>
  )
}
