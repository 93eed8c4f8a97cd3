import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/react'
import type { Flag } from '@/api'
import { flagWords } from '@/words'

const ALL: readonly Flag[] = ['torn', 'trimmed', 'scorched', 'hot', 'damp']

/** What was the matter with what is on the balance: kept with the mass, which it makes read high or low. */
export function Flags({
  flags,
  onFlags,
}: {
  flags: readonly Flag[]
  onFlags: (flags: readonly Flag[]) => void
}) {
  return (
    <Disclosure as="div" className="mt-1" defaultOpen={flags.length > 0}>
      <DisclosureButton className="min-h-11 text-body text-slate underline underline-offset-4">
        Anything wrong with it?
      </DisclosureButton>
      <DisclosurePanel className="mt-1 flex flex-wrap gap-1.5">
        {ALL.map((flag) => {
          const on = flags.includes(flag)
          return (
            <button
              key={flag}
              type="button"
              aria-pressed={on}
              className="min-h-12 border border-rule bg-sheet px-3 text-body aria-pressed:border-2 aria-pressed:border-amber aria-pressed:font-semibold"
              onClick={() => {
                onFlags(on ? flags.filter((f) => f !== flag) : [...flags, flag])
              }}
            >
              {flagWords[flag].name}
            </button>
          )
        })}
      </DisclosurePanel>
    </Disclosure>
  )
}
