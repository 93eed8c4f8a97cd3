import { useQuery } from '@tanstack/react-query'
import { client, unwrapped, type Glassware } from '@/api'
import { columnWidths, Failure, Reading } from '@/ui'

const KINDS: readonly { kind: Glassware['kind']; title: string; source: string }[] = [
  { kind: 'burette', title: 'burettes', source: 'ISO 385' },
  { kind: 'volumetric-pipette', title: 'one-mark pipettes', source: 'ISO 648' },
  { kind: 'volumetric-flask', title: 'one-mark flasks', source: 'ISO 1042' },
  { kind: 'measuring-cylinder', title: 'measuring cylinders', source: 'ISO 4788' },
]

/** Tolerances of volumetric glassware, by class. */
export function GlasswareTable() {
  const glassware = useQuery({
    queryKey: ['handbook', 'glassware'],
    queryFn: () => unwrapped(client.GET('/api/v1/handbook/glassware')),
    staleTime: Infinity,
  })
  if (glassware.isPending) return <p className="py-12 text-slate">Opening the cupboard …</p>
  if (glassware.isError) return <Failure error={glassware.error} />
  return (
    <section aria-labelledby="glassware">
      <h1 id="glassware" className="text-title">
        Glassware
      </h1>
      <p className="mb-5 max-w-[52rem] text-slate">
        Half-width of the tolerance in mL. It belongs to the piece: it neither cancels between two readings
        nor shrinks by repeating. Read graduated glass one digit beyond its divisions; one mark is filled to,
        never read.
      </p>
      <div className="grid gap-x-12 gap-y-8 tablet:grid-cols-2 desk:grid-cols-4">
        {KINDS.map((k) => (
          <Kind
            key={k.kind}
            title={k.title}
            source={k.source}
            pieces={glassware.data.filter((g) => g.kind === k.kind)}
          />
        ))}
      </div>
    </section>
  )
}

function Kind({ title, source, pieces }: { title: string; source: string; pieces: readonly Glassware[] }) {
  const graduated = pieces.some((p) => p.division != null)
  const texts = (of: (p: Glassware) => number) => columnWidths(pieces.map((p) => String(of(p))))
  return (
    <table className="w-full border-collapse self-start">
      <caption className="mb-1 text-left font-semibold">
        {title} <span className="text-note font-normal text-slate">{source}</span>
      </caption>
      <thead>
        <tr className="border-b border-ink text-left text-note text-slate">
          <th className="py-1 font-normal">mL</th>
          {graduated && <th className="py-1 font-normal">division</th>}
          <th className="py-1 font-normal">A ±</th>
          <th className="py-1 font-normal">B ±</th>
        </tr>
      </thead>
      <tbody>
        {pieces.map((p, i) => (
          <tr key={i} className="border-b border-rule">
            <th scope="row" className="py-1 text-left font-normal">
              <Reading text={String(p.volume)} {...texts((x) => x.volume)} />
            </th>
            {graduated && (
              <td className="py-1">
                {p.division != null && (
                  <Reading text={String(p.division)} {...texts((x) => x.division ?? 0)} />
                )}
              </td>
            )}
            <td className="py-1">
              <Reading text={String(p.class_a)} {...texts((x) => x.class_a)} />
            </td>
            <td className="py-1">
              <Reading text={String(p.class_b)} {...texts((x) => x.class_b)} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
