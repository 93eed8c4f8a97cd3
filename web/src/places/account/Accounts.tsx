import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { client, unwrapped, type AccountView } from '@/api'
import { AskOnce, dayAndTime, Failure, InPlace } from '@/ui'

const KEY = ['accounts'] as const

/** Where one is signed in; for the first account also everybody else's, with what only it may do. */
export function Accounts() {
  const accounts = useQuery({ queryKey: KEY, queryFn: () => unwrapped(client.GET('/api/v1/accounts')) })
  if (accounts.isPending) return null
  if (accounts.isError) return <Failure error={accounts.error} />
  const { me, accounts: all } = accounts.data
  const own = all.find((a) => a.id === me)
  const others = all.filter((a) => a.id !== me)
  return (
    <>
      {own && <Mine of={own} />}
      {own?.keeper === true && others.length > 0 && (
        <section aria-labelledby="others" className="mt-10 max-w-2xl">
          <h2 id="others" className="mb-1 text-body">
            other accounts
          </h2>
          <p className="mb-2 text-note text-slate">
            You are the administrator: the record, its backups and these accounts are yours to look after.
          </p>
          <ul>
            {others.map((a) => (
              <Other key={a.id} of={a} />
            ))}
          </ul>
        </section>
      )}
    </>
  )
}

function useAct<T>(act: (what: T) => Promise<unknown>) {
  const queries = useQueryClient()
  return useMutation({ mutationFn: act, onSuccess: () => queries.invalidateQueries({ queryKey: KEY }) })
}

function Mine({ of }: { of: AccountView }) {
  const elsewhere = useAct(() => unwrapped(client.DELETE('/api/v1/accounts/mine/elsewhere')))
  return (
    <section aria-labelledby="signed-in" className="mt-10 max-w-2xl">
      <h2 id="signed-in" className="mb-1 text-body">
        where you are signed in
      </h2>
      <ul className="border-t border-rule">
        {of.signed_in.map((s) => (
          <li key={`${s.place} ${s.since}`} className="border-b border-rule py-1.5">
            {s.place === '' ? 'a device' : s.place}
            <span className="text-note text-slate">
              {' '}
              · since {dayAndTime(s.since)}
              {s.here && ' · this one'}
            </span>
          </li>
        ))}
      </ul>
      {of.signed_in.length > 1 && (
        <button
          type="button"
          className="action mt-2"
          disabled={elsewhere.isPending}
          onClick={() => {
            elsewhere.mutate(undefined)
          }}
        >
          Sign out everywhere else
        </button>
      )}
      {elsewhere.isError && <Failure error={elsewhere.error} />}
    </section>
  )
}

function Other({ of }: { of: AccountView }) {
  const close = useAct(() =>
    unwrapped(client.DELETE('/api/v1/accounts/{person}', { params: { path: { person: of.id } } })),
  )
  return (
    <li className="border-t border-rule py-2">
      <p>
        {of.name}
        <span className="text-note text-slate">
          {' '}
          · {of.role} ·{' '}
          {of.signed_in.length === 0
            ? 'not signed in'
            : `signed in at ${of.signed_in.map((s) => s.place).join('; ')}`}
        </span>
      </p>
      <div className="flex flex-wrap items-start gap-x-6">
        <Forgotten of={of} />
        <AskOnce
          ask="close the account"
          label={`close the account of ${of.name}`}
          keep="keep the account"
          act={`Close the account of ${of.name}`}
          pending={close.isPending}
          error={close.error}
          onAct={() => {
            close.mutate(undefined)
          }}
        >
          {of.name} can no longer sign in. Their classes become yours; the record keeps the name beside what
          they did.
        </AskOnce>
      </div>
    </li>
  )
}

/** Another passphrase for who forgot theirs: told to them by word of mouth. */
function Forgotten({ of }: { of: AccountView }) {
  const reset = useAct((passphrase: string) =>
    unwrapped(
      client.PUT('/api/v1/accounts/{person}/passphrase', {
        params: { path: { person: of.id } },
        body: { passphrase },
      }),
    ),
  )
  return (
    <span>
      <InPlace
        ask="reset the passphrase"
        label={`new passphrase for ${of.name}`}
        told={`new passphrase for ${of.name}, ten characters or more`}
        value=""
        least={10}
        most={200}
        act="Set it"
        pending={reset.isPending}
        error={reset.error}
        onAct={(passphrase, done) => {
          reset.mutate(passphrase, { onSuccess: done })
        }}
      />
      {reset.isSuccess && (
        <span role="status" className="block text-note text-teal">
          Changed. Tell {of.name}, who is signed out everywhere.
        </span>
      )}
    </span>
  )
}
