import type { RoomItem, RoomView } from '@/api'
import { dayAndTime, Failure, Reading, Unit, Wide } from '@/ui'
import { NewBottle, NewInstrument, NewVessel } from './NewThing'
import { useFurnish, useRoom } from './useRoom'

/** The room's own things: what readings are taken on, which bottles there are, vessels weighed beforehand. */
export function RoomPage() {
  const room = useRoom()
  const { put, takeOut } = useFurnish()
  if (room.isPending) return <p className="py-12 text-slate">Looking round the room …</p>
  if (room.isError) return <Failure error={room.error} />
  const out = (kind: RoomItem['sort'], name: string) => {
    takeOut.mutate({ kind, name })
  }
  return (
    <section aria-labelledby="room">
      <h1 id="room" className="text-title">
        Our room
      </h1>
      <p className="mb-5 max-w-[52rem] text-slate">
        Groups choose at the bench which of these they use; the device remembers it. A reading is judged and
        computed by the instrument that it was taken on. What is taken out of the room stays with the readings
        that were taken on it.
      </p>
      {put.isError && <Failure error={put.error}>Nothing was changed.</Failure>}
      {takeOut.isError && <Failure error={takeOut.error}>Nothing was changed.</Failure>}
      <Instruments of={room.data.instruments} onOut={out} />
      <NewInstrument onNew={put.mutate} busy={put.isPending} />
      <div className="mt-10 grid gap-x-12 gap-y-8 desk:grid-cols-2">
        <div>
          <Bottles of={room.data.bottles} onOut={out} />
          <NewBottle onNew={put.mutate} busy={put.isPending} />
        </div>
        <div>
          <Vessels of={room.data.vessels} onOut={out} />
          <NewVessel onNew={put.mutate} busy={put.isPending} />
        </div>
      </div>
    </section>
  )
}

type Out = (kind: RoomItem['sort'], name: string) => void

const head = 'py-1 pr-4 text-left text-note font-normal text-slate'

function Instruments({ of, onOut }: { of: RoomView['instruments']; onOut: Out }) {
  if (of.length === 0) {
    return <p className="mb-3 text-slate">No instruments yet: name the balances and burettes of this room.</p>
  }
  return (
    <Wide label="instruments, scrolls sideways">
      <table className="mb-3 w-full border-collapse">
        <caption className="mb-1 text-left font-semibold">instruments</caption>
        <thead>
          <tr className="border-b border-ink">
            {['name', 'kind', 'step', 'tolerance ±', 'repeatability s', 'capacity', ''].map((h) => (
              <th key={h} scope="col" className={head}>
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {of.map((i) => (
            <tr key={i.name} className="border-b border-rule">
              <th scope="row" className="py-1.5 pr-4 text-left font-semibold">
                {i.name}
              </th>
              <td className="pr-4 text-slate">{i.kind.replaceAll('-', ' ')}</td>
              {[i.resolution, i.tolerance, i.repeatability, i.capacity].map((n, at) => (
                <td key={at} className="pr-4">
                  <Reading text={String(n)} />
                  <Unit of={i.unit} />
                </td>
              ))}
              <td className="text-right">
                <TakeOut
                  name={i.name}
                  onOut={() => {
                    onOut('instrument', i.name)
                  }}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  )
}

function Bottles({ of, onOut }: { of: RoomView['bottles']; onOut: Out }) {
  if (of.length === 0) {
    return (
      <p className="mb-3 text-slate">No bottles yet. With two of one solution, a bad one can be found out.</p>
    )
  }
  return (
    <Wide label="bottles, scrolls sideways">
      <table className="mb-3 w-full border-collapse">
        <caption className="mb-1 text-left font-semibold">bottles</caption>
        <tbody>
          {of.map((b) => (
            <tr key={b.name} className="border-b border-rule">
              <th scope="row" className="py-1.5 pr-4 text-left font-semibold">
                {b.name}
              </th>
              <td className="pr-4">{b.holds}</td>
              <td className="pr-4 text-slate">
                {b.strength}
                {b.measured != null && (
                  <span className="block text-ink">measured {b.measured}: their calculations use this</span>
                )}
                {b.made && (
                  <span className="block">
                    from {b.made.from}, {b.made.by}, {dayAndTime(b.made.at)}
                  </span>
                )}
              </td>
              <td className="text-right">
                <TakeOut
                  name={b.name}
                  onOut={() => {
                    onOut('bottle', b.name)
                  }}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  )
}

function Vessels({ of, onOut }: { of: RoomView['vessels']; onOut: Out }) {
  if (of.length === 0) {
    return (
      <p className="mb-3 text-slate">
        No vessels weighed beforehand. A vial with its tag and mass saves a weighing.
      </p>
    )
  }
  return (
    <Wide label="vessels weighed beforehand, scrolls sideways">
      <table className="mb-3 w-full border-collapse">
        <caption className="mb-1 text-left font-semibold">vessels weighed beforehand</caption>
        <tbody>
          {of.map((v) => (
            <tr key={`${v.vessel} ${v.tag}`} className="border-b border-rule">
              <th scope="row" className="py-1.5 pr-4 text-left font-semibold">
                {v.vessel} {v.tag}
              </th>
              <td className="pr-4">
                <Reading text={v.mass} />
                <Unit of="g" />
              </td>
              <td className="text-right">
                <TakeOut
                  name={`${v.vessel} ${v.tag}`}
                  onOut={() => {
                    onOut('vessel', `${v.vessel} ${v.tag}`)
                  }}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  )
}

function TakeOut({ name, onOut }: { name: string; onOut: () => void }) {
  return (
    <button
      type="button"
      aria-label={`take out ${name}`}
      className="min-h-6 text-note text-copper-text underline underline-offset-4"
      onClick={onOut}
    >
      take out
    </button>
  )
}
