import { client, unwrapped, type GroupPage } from '@/api'
import { Failure } from '@/ui'
import { useAction } from './useGroup'

/** Photos of the bench, by step; each can be deleted. */
export function Photos({ run, page, steps }: { run: number; page: GroupPage; steps: readonly string[] }) {
  const group = page.row.group
  const drop = useAction(run, group, (name: string) =>
    unwrapped(
      client.DELETE('/api/v1/runs/{run}/groups/{group}/photos/{name}', {
        params: { path: { run, group, name } },
      }),
    ),
  )
  const photos = Object.entries(page.photos).sort(([, a], [, b]) => a - b)
  if (photos.length === 0) return null
  return (
    <section aria-label="photos">
      <h2 className="mb-1 text-ink">photos</h2>
      <ul className="grid grid-cols-2 gap-2">
        {photos.map(([name, step]) => (
          <li key={name}>
            <a href={`/api/v1/runs/${run}/groups/${group}/photos/${name}`} target="_blank" rel="noreferrer">
              <img
                src={`/api/v1/runs/${run}/groups/${group}/photos/${name}`}
                alt={`step ${step + 1}, ${steps[step] ?? ''}`}
                className="block aspect-square w-full border border-rule object-cover"
                loading="lazy"
              />
            </a>
            <span className="flex justify-between gap-2 text-slate">
              step {step + 1}
              <button
                type="button"
                className="min-h-6 underline underline-offset-4"
                disabled={drop.isPending}
                onClick={() => {
                  drop.mutate(name)
                }}
              >
                delete
              </button>
            </span>
          </li>
        ))}
      </ul>
      {drop.isError && <Failure error={drop.error} />}
    </section>
  )
}
