import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Link } from 'react-router'
import { client, theFile, unwrapped } from '@/api'
import { Failure } from '@/ui'

/** A run of another school, from its file: closed, and computed anew here. */
export function TakeIn() {
  const queries = useQueryClient()
  const take = useMutation({
    mutationFn: (file: Blob) => unwrapped(client.POST('/api/v1/runs/whole', theFile(file))),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['shelf'] }),
  })
  return (
    <section aria-label="a run from another school" className="border-t border-rule pt-3">
      <label className="text-note text-slate">
        <span className="mb-0.5 block">import a run from another server (.run.zip)</span>
        <input
          type="file"
          accept=".zip"
          className="field w-72"
          disabled={take.isPending}
          onChange={(event) => {
            const file = event.target.files?.[0]
            if (file) take.mutate(file)
            event.target.value = ''
          }}
        />
      </label>
      {take.isPending && <p className="text-note text-slate">Reading it and recalculating everything …</p>}
      {take.isError && <Failure error={take.error} />}
      {take.data && (
        <div role="status" className="mt-2 border-l-4 border-teal pl-3">
          <Link to={`/record/${take.data.run}`} className="text-copper-text underline underline-offset-4">
            The run is imported
          </Link>
          {take.data.otherwise.length === 0
            ? ', and every result comes out as it did there.'
            : `, but ${take.data.otherwise.length} of its results come out differently here:`}
          <ul className="text-note text-amber-text">
            {take.data.otherwise.map((f) => (
              <li key={`${f.group} ${f.label}`}>
                {f.group}, {f.label}: {f.then === '' ? 'nothing' : f.then} there,{' '}
                {f.now === '' ? 'nothing' : f.now} here
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  )
}
