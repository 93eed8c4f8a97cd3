import { useMutation, useQueryClient } from '@tanstack/react-query'
import { client, unwrapped, type BenchView } from '@/api'
import { Failure } from '@/ui'
import { smallPicture } from './picture'

/** Photos of this step, where the instructor lets them be taken: one tap to take, one to delete. */
export function PhotoLine({ view, step }: { view: BenchView; step: number }) {
  const queries = useQueryClient()
  const again = () => queries.invalidateQueries({ queryKey: ['bench'] })
  const take = useMutation({
    mutationFn: async (file: File) => {
      const picture = await smallPicture(file)
      return unwrapped(
        client.POST('/api/v1/bench/photos', {
          params: { query: { step } },
          headers: { 'content-type': 'image/jpeg' },
          // A file is sent as it is.
          body: picture as unknown as number[],
          bodySerializer: (body) => body as unknown as Blob,
        }),
      )
    },
    onSuccess: again,
  })
  const drop = useMutation({
    mutationFn: (name: string) =>
      unwrapped(client.DELETE('/api/v1/bench/photos/{name}', { params: { path: { name } } })),
    onSuccess: again,
  })
  const here = Object.entries(view.photos).filter(([, of]) => of === step)
  if (!view.takes_photos && here.length === 0) return null
  return (
    <section aria-label="photos" className="py-2">
      {here.length > 0 && (
        <ul className="mb-2 flex flex-wrap gap-2">
          {here.map(([name], i) => (
            <li key={name} className="text-body">
              <img
                src={`/api/v1/bench/photos/${name}`}
                alt={`photo ${i + 1} of this step`}
                className="block size-24 border border-rule object-cover"
              />
              <button
                type="button"
                className="min-h-11 underline underline-offset-4"
                disabled={drop.isPending}
                onClick={() => {
                  drop.mutate(name)
                }}
              >
                delete it
              </button>
            </li>
          ))}
        </ul>
      )}
      {view.takes_photos && !view.closed && (
        <label className="inline-flex min-h-14 items-center text-body underline underline-offset-4 focus-within:outline-3 focus-within:outline-copper">
          {take.isPending ? 'Sending the photo …' : 'Take a photo'}
          <input
            type="file"
            accept="image/*"
            capture="environment"
            className="sr-only"
            disabled={take.isPending}
            onChange={(event) => {
              const file = event.target.files?.[0]
              event.target.value = ''
              if (file) take.mutate(file)
            }}
          />
        </label>
      )}
      {take.isError && (
        <Failure error={take.error}>A photo is not kept on the device: take it again when connected.</Failure>
      )}
      {drop.isError && <Failure error={drop.error} />}
    </section>
  )
}
