import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useLocation, useNavigate } from 'react-router'
import { client, unwrapped, useSession, type SignIn } from '@/api'
import { Failure } from '@/ui'

/** The door to the desk: signing in, or making the first account. */
export function DoorPlace() {
  const session = useSession()
  return (
    <main className="mx-auto max-w-xl px-6 pt-16">
      <div className="border-l border-copper pl-8">
        <p className="font-semibold">Keen Beaker</p>
        {session.isPending && <p className="mt-6 text-slate">Connecting …</p>}
        {session.isError && (
          <div className="mt-6">
            <Failure error={session.error}>
              Is the server running? This page tries again when you reload it.
            </Failure>
          </div>
        )}
        {session.data &&
          (session.data.new ? <FirstAccount here={session.data.this_machine} /> : <SignInForm />)}
        <p className="mt-12 text-note text-slate">
          At the bench?{' '}
          <Link to="/join" className="text-copper-text underline underline-offset-4">
            Join with the code on the board
          </Link>
          , no sign-in needed.
        </p>
      </div>
    </main>
  )
}

function useEnter() {
  const queries = useQueryClient()
  const navigate = useNavigate()
  const { state } = useLocation() as { state: { back?: string } | null }
  return async (who: SignIn) => {
    await unwrapped(client.POST('/api/v1/session', { body: who }))
    await queries.invalidateQueries()
    await navigate(state?.back ?? '/shelf', { replace: true })
  }
}

function SignInForm() {
  const [name, setName] = useState('')
  const [passphrase, setPassphrase] = useState('')
  const enter = useEnter()
  const signIn = useMutation({ mutationFn: enter })
  return (
    <form
      className="mt-6 flex flex-col items-start gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        signIn.mutate({ name, passphrase })
      }}
    >
      <h1 className="text-title">Sign in</h1>
      <Field label="Your name" value={name} onChange={setName} autoComplete="username" />
      <Field
        label="Your passphrase"
        type="password"
        value={passphrase}
        onChange={setPassphrase}
        autoComplete="current-password"
      />
      {signIn.isError && <Failure error={signIn.error} />}
      <button
        type="submit"
        className="action"
        disabled={signIn.isPending || name.trim() === '' || passphrase === ''}
      >
        {signIn.isPending ? 'Opening …' : 'Open the desk'}
      </button>
    </form>
  )
}

function FirstAccount({ here }: { here: boolean }) {
  const [name, setName] = useState('')
  const [passphrase, setPassphrase] = useState('')
  const [token, setToken] = useState('')
  const enter = useEnter()
  const create = useMutation({
    mutationFn: async () => {
      await unwrapped(client.POST('/api/v1/accounts', { body: { name, passphrase, token: token || null } }))
      await enter({ name, passphrase })
    },
  })
  return (
    <form
      className="mt-6 flex flex-col items-start gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        create.mutate()
      }}
    >
      <h1 className="text-title">A new school</h1>
      <p>Nobody has an account here yet. The first account is the administrator.</p>
      <Field
        label="Your name, as groups see it; you sign in with it"
        value={name}
        onChange={setName}
        autoComplete="username"
      />
      <Field
        label="A passphrase of at least ten characters; four words do well"
        type="password"
        value={passphrase}
        onChange={setPassphrase}
        autoComplete="new-password"
      />
      {!here && (
        <Field
          label="The token printed on the server's console"
          value={token}
          onChange={setToken}
          autoComplete="off"
        />
      )}
      {create.isError && <Failure error={create.error} />}
      <button type="submit" className="action" disabled={create.isPending}>
        {create.isPending ? 'Making it …' : 'Make the account'}
      </button>
    </form>
  )
}

function Field({
  label,
  value,
  onChange,
  type = 'text',
  autoComplete,
}: {
  label: string
  value: string
  onChange: (value: string) => void
  type?: string
  autoComplete: string
}) {
  return (
    <label className="block w-full max-w-sm">
      <span className="mb-1 block text-note text-slate">{label}</span>
      <input
        className="field w-full"
        type={type}
        value={value}
        autoComplete={autoComplete}
        maxLength={200}
        onChange={(event) => {
          onChange(event.target.value)
        }}
      />
    </label>
  )
}
