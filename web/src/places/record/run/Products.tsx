import { useState } from 'react'
import { client, unwrapped, type Afterwards, type ProductFate, type Row } from '@/api'
import { day, Failure, focused, Part, Unit } from '@/ui'
import { useSaying } from './useAfterwards'

/** What was made: mass, whether it is still there, and where. */
export function Products({ run, rows, after }: { run: number; rows: readonly Row[]; after: Afterwards }) {
  const say = useSaying(run, (body: ProductFate) =>
    unwrapped(client.PUT('/api/v1/runs/{run}/product', { params: { path: { run } }, body })),
  )
  if (after.products.length === 0) return null
  return (
    <Part title="products">
      <table className="w-full border-collapse text-note">
        <caption className="sr-only">products of each group</caption>
        <tbody>
          {rows.flatMap((row) =>
            after.products.map((product) => (
              <Line
                key={`${row.group} ${product.symbol}`}
                row={row}
                name={product.name}
                symbol={product.symbol}
                fate={after.kept.find((k) => k.group === row.group && k.symbol === product.symbol)}
                pending={say.isPending}
                onSay={(kept, place, done) => {
                  say.mutate({ group: row.group, symbol: product.symbol, kept, place }, { onSuccess: done })
                }}
              />
            )),
          )}
        </tbody>
      </table>
      {say.isError && <Failure error={say.error} />}
    </Part>
  )
}

function Line({
  row,
  name,
  symbol,
  fate,
  pending,
  onSay,
}: {
  row: Row
  name: string
  symbol: string
  fate: Afterwards['kept'][number] | undefined
  pending: boolean
  onSay: (kept: boolean, place: string, done: () => void) => void
}) {
  const mass = row.outcome.products[symbol]
  const [place, setPlace] = useState<string | null>(null)
  const said = (kept: boolean) => {
    onSay(kept, place ?? '', () => {
      setPlace(null)
    })
  }
  return (
    <tr className="border-b border-rule align-baseline">
      <th scope="row" className="py-1 pr-4 text-left font-normal">
        {row.name}
      </th>
      <td className="py-1 pr-4">
        {name}
        {row.tags.length > 0 && <span className="block text-slate">{row.tags.join(', ')}</span>}
      </td>
      <td className="py-1 pr-4 text-right font-mono whitespace-nowrap">
        {mass ? (
          <>
            {mass.text}
            <Unit of={mass.unit} />
          </>
        ) : (
          <span className="text-slate">–</span>
        )}
      </td>
      <td className="py-1">
        {place === null ? (
          <>
            {fate && (
              <>
                {fate.kept ? 'kept' : 'thrown away'}
                {fate.place !== '' && `, ${fate.place}`}
                <span className="text-slate">
                  {' '}
                  ({fate.by}, {day(fate.at)})
                </span>{' '}
              </>
            )}
            <button
              type="button"
              aria-label={`where ${row.name}’s ${name} is`}
              className="min-h-6 text-copper-text underline underline-offset-4 print:hidden"
              onClick={() => {
                setPlace(fate?.place ?? '')
              }}
            >
              {fate ? 'edit' : 'where is it kept?'}
            </button>
          </>
        ) : (
          <form
            className="flex flex-wrap items-center gap-x-4 gap-y-1"
            onSubmit={(event) => {
              event.preventDefault()
              said(true)
            }}
          >
            <input
              ref={focused}
              aria-label={`place of ${row.name}’s ${name}`}
              placeholder="desiccator 2"
              className="field w-40"
              maxLength={60}
              value={place}
              onChange={(event) => {
                setPlace(event.target.value)
              }}
            />
            <button type="submit" className="action" disabled={pending}>
              Kept
            </button>
            <button
              type="button"
              className="min-h-6 underline underline-offset-4"
              disabled={pending}
              onClick={() => {
                said(false)
              }}
            >
              Thrown away
            </button>
          </form>
        )}
      </td>
    </tr>
  )
}
