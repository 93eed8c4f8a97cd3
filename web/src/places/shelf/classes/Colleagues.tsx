import { useState } from 'react'
import { client, unwrapped, type ClassesView, type ClassView, type AccountRole } from '@/api'
import { Failure } from '@/ui'
import { useClassAction } from './useClasses'

/** Whom the owner lets in, and an account for somebody new. */
export function Colleagues({ view, of, mine }: { view: ClassesView; of: ClassView; mine: boolean }) {
  const share = useClassAction((body: { person: number; shared: boolean }) =>
    unwrapped(client.PUT('/api/v1/classes/{class}/share', { params: { path: { class: of.id } }, body })),
  )
  const others = view.colleagues.filter((c) => c.id !== of.owner.id)
  return (
    <section aria-labelledby="colleagues">
      <h3 id="colleagues" className="mb-2 text-note text-ink">
        colleagues who see it
      </h3>
      {others.length === 0 && <p className="text-note text-slate">Nobody else has an account.</p>}
      <ul>
        {others.map((c) => (
          <li key={c.id}>
            <label className="flex min-h-8 items-center gap-2">
              <input
                type="checkbox"
                className="size-4 accent-copper"
                checked={of.shared_with.some((s) => s.id === c.id)}
                disabled={!mine || share.isPending}
                onChange={(event) => {
                  share.mutate({ person: c.id, shared: event.target.checked })
                }}
              />
              {c.name}
            </label>
          </li>
        ))}
      </ul>
      {share.isError && <Failure error={share.error} />}
      <NewColleague />
    </section>
  )
}

const ROLES: readonly AccountRole[] = ['instructor', 'technician', 'reader']

function NewColleague() {
  const [open, setOpen] = useState(false)
  const [name, setName] = useState('')
  const [passphrase, setPassphrase] = useState('')
  const [role, setRole] = useState<AccountRole>('instructor')
  const add = useClassAction((body: { name: string; passphrase: string; role: AccountRole }) =>
    unwrapped(client.POST('/api/v1/colleagues', { body })),
  )
  return (
    <>
      <button
        type="button"
        aria-expanded={open}
        className="mt-1 min-h-6 text-note text-copper-text underline underline-offset-4"
        onClick={() => {
          setOpen(!open)
        }}
      >
        {open ? 'no new account' : 'an account for a colleague, a technician or a reader'}
      </button>
      {add.isSuccess && !open && (
        <p role="status" className="text-note text-teal">
          The account is made; nothing is shared with it yet.
        </p>
      )}
      {open && (
        <form
          className="mt-2 flex flex-col gap-2 text-note text-slate"
          onSubmit={(event) => {
            event.preventDefault()
            add.mutate(
              { name, passphrase, role },
              {
                onSuccess: () => {
                  setOpen(false)
                  setName('')
                  setPassphrase('')
                },
              },
            )
          }}
        >
          <label>
            name
            <input
              className="field w-full"
              value={name}
              maxLength={80}
              onChange={(event) => {
                setName(event.target.value)
              }}
            />
          </label>
          <label>
            passphrase, at least ten characters
            <input
              className="field w-full"
              type="password"
              autoComplete="new-password"
              value={passphrase}
              maxLength={200}
              onChange={(event) => {
                setPassphrase(event.target.value)
              }}
            />
          </label>
          <label>
            works as
            <select
              className="field w-full"
              value={role}
              onChange={(event) => {
                setRole(ROLES.find((r) => r === event.target.value) ?? 'instructor')
              }}
            >
              <option value="instructor">instructor</option>
              <option value="technician">technician: prepares, sees no calculations, marks or names</option>
              <option value="reader">reader: looks, changes nothing</option>
            </select>
          </label>
          <button type="submit" className="action self-start text-body" disabled={add.isPending}>
            Make the account
          </button>
          {add.isError && <Failure error={add.error} />}
        </form>
      )}
    </>
  )
}
