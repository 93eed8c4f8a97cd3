import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { client, unwrapped, useSession, type JoinView } from '@/api'
import { Failure } from '@/ui'
import { allHeld } from './outbox/device'

/** How a device comes to its group: the code on the board, then the group. */
export function JoinPlace() {
  const { code } = useParams()
  return (
    <main className="mx-auto max-w-lg px-5 pt-8 pb-10 text-bench">
      <p className="text-body font-semibold">Keen Beaker</p>
      <AlreadyHere />
      {code === undefined ? <CodeForm /> : <Groups code={code} />}
    </main>
  )
}

/** A device that has a group can simply go on; what it holds of another one stays on it. */
function AlreadyHere() {
  const session = useSession()
  const held = useQuery({ queryKey: ['held'], queryFn: allHeld })
  const group = session.data?.group
  return (
    <>
      {group != null && (
        <p className="mt-5 border-l-3 border-copper pl-3">
          This device is {group}'s.{' '}
          <Link to="/bench" className="inline-block min-h-11 font-semibold underline underline-offset-4">
            Go on at the bench
          </Link>
        </p>
      )}
      {held.data !== undefined && held.data.length > 0 && (
        <p className="mt-3 text-body text-amber-text">
          {held.data.length} unsent {held.data.length === 1 ? 'entry is' : 'entries are'} kept on this device.
          They are sent when it joins their own group again.
        </p>
      )}
    </>
  )
}

function CodeForm() {
  const [code, setCode] = useState('')
  const navigate = useNavigate()
  return (
    <form
      className="mt-8 flex flex-col items-start gap-5"
      onSubmit={(event) => {
        event.preventDefault()
        void navigate(`/join/${encodeURIComponent(code.trim().replace(/\s+/g, '-'))}`)
      }}
    >
      <h1 className="text-title">Join your class</h1>
      <label className="w-full">
        <span className="mb-1 block text-slate">the code on the board</span>
        <input
          className="field min-h-16 w-full font-mono text-title uppercase"
          value={code}
          maxLength={20}
          autoComplete="off"
          autoCapitalize="characters"
          spellCheck={false}
          autoFocus
          onChange={(event) => {
            setCode(event.target.value)
          }}
        />
      </label>
      <button
        type="submit"
        className="min-h-16 w-full bg-ink text-lead font-semibold text-paper disabled:opacity-60"
        disabled={code.trim() === ''}
      >
        Find it
      </button>
    </form>
  )
}

function Groups({ code }: { code: string }) {
  const found = useQuery({
    queryKey: ['join', code],
    queryFn: () => unwrapped(client.POST('/api/v1/join', { body: { code } })),
  })
  if (found.isPending) return <p className="mt-8 text-slate">Looking for {code} …</p>
  if (found.isError) {
    return (
      <div className="mt-8">
        <Failure error={found.error} />
        <Link to="/join" className="mt-4 inline-block min-h-14 underline underline-offset-4">
          Type another code
        </Link>
      </div>
    )
  }
  return <Choose code={code} view={found.data} />
}

function Choose({ code, view }: { code: string; view: JoinView }) {
  const [chosen, setChosen] = useState<number | null>(null)
  const group = view.groups.find((g) => g.id === chosen)
  return (
    <>
      <h1 className="mt-8 text-title">Which group are you?</h1>
      <p className="mt-1 mb-4 text-slate">
        {view.title}, {view.class}
      </p>
      {view.closed && <p className="mb-4 text-amber-text">This run is closed: you can look, not enter.</p>}
      <ul className="grid grid-cols-2 gap-2">
        {view.groups.map((g) => (
          <li key={g.id}>
            <button
              type="button"
              aria-pressed={g.id === chosen}
              className="flex min-h-16 w-full flex-col items-start justify-center border border-rule bg-sheet px-3 text-left aria-pressed:border-2 aria-pressed:border-copper"
              onClick={() => {
                setChosen(g.id)
              }}
            >
              <span className="text-lead font-semibold">{g.name}</span>
              {g.claimed && <span className="text-note text-slate">has a device</span>}
            </button>
          </li>
        ))}
      </ul>
      {group && (
        <ClaimForm key={group.id} code={code} group={group} needsPin={group.claimed || view.closed} />
      )}
    </>
  )
}

function ClaimForm({
  code,
  group,
  needsPin,
}: {
  code: string
  group: JoinView['groups'][number]
  needsPin: boolean
}) {
  const [pin, setPin] = useState('')
  const navigate = useNavigate()
  const queries = useQueryClient()
  const claim = useMutation({
    mutationFn: () =>
      unwrapped(
        client.POST('/api/v1/join/claim', {
          body: { code, group: group.id, pin: needsPin ? pin : null },
        }),
      ),
    onSuccess: async () => {
      queries.removeQueries({ queryKey: ['bench'] })
      await queries.invalidateQueries({ queryKey: ['session'] })
      await navigate('/bench')
    },
    onError: () => void queries.invalidateQueries({ queryKey: ['join', code] }),
  })
  return (
    <form
      className="mt-5 flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        claim.mutate()
      }}
    >
      {needsPin && (
        <label>
          <span className="mb-1 block text-slate">
            {group.name}'s PIN, {group.claimed ? 'on its first device and' : ''} on the board
          </span>
          <input
            className="field min-h-16 w-full font-mono text-title"
            value={pin}
            inputMode="numeric"
            maxLength={8}
            autoComplete="off"
            autoFocus
            onChange={(event) => {
              setPin(event.target.value)
            }}
          />
        </label>
      )}
      {claim.isError && <Failure error={claim.error} />}
      <button
        type="submit"
        className="min-h-16 w-full bg-ink text-lead font-semibold text-paper disabled:opacity-60"
        disabled={claim.isPending || (group.claimed && pin.trim() === '')}
      >
        We are {group.name}
      </button>
    </form>
  )
}
