import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { client, unwrapped, useSession } from '@/api'
import { Failure } from '@/ui'
import { Accounts } from './Accounts'

/** One's own account: another passphrase, where it is signed in; and everybody's, for the first. */
export function AccountPlace() {
  const session = useSession()
  return (
    <div className="border-l border-copper pl-4 tablet:pl-8">
      <h1 className="text-title">{session.data?.staff}</h1>
      <p className="mb-8 text-slate">{session.data?.role}</p>
      <Passphrase />
      <Accounts />
    </div>
  )
}

function Passphrase() {
  const [now, setNow] = useState('')
  const [next, setNext] = useState('')
  const change = useMutation({
    mutationFn: () => unwrapped(client.PUT('/api/v1/passphrase', { body: { now, new: next } })),
    onSuccess: () => {
      setNow('')
      setNext('')
    },
  })
  const long = next.length >= 10
  return (
    <form
      aria-label="another passphrase"
      className="flex max-w-md flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        change.mutate()
      }}
    >
      <Secret label="your passphrase now" value={now} autoComplete="current-password" onChange={setNow} />
      <Secret
        label="another one: ten characters or more; four words do well"
        value={next}
        autoComplete="new-password"
        onChange={setNext}
      />
      <p className="text-note text-slate">All your other devices are signed out.</p>
      <button type="submit" className="action self-start" disabled={now === '' || !long || change.isPending}>
        Change it
      </button>
      {change.isError && <Failure error={change.error} />}
      {change.isSuccess && (
        <p role="status" className="text-teal">
          Changed. From now on you sign in with the new one.
        </p>
      )}
    </form>
  )
}

function Secret({
  label,
  value,
  autoComplete,
  onChange,
}: {
  label: string
  value: string
  autoComplete: string
  onChange: (value: string) => void
}) {
  return (
    <label className="flex flex-col gap-1">
      <span className="text-note text-slate">{label}</span>
      <input
        type="password"
        className="field w-full"
        autoComplete={autoComplete}
        maxLength={200}
        value={value}
        onChange={(event) => {
          onChange(event.target.value)
        }}
      />
    </label>
  )
}
