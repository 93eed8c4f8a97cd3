import { Link, useNavigate } from 'react-router'
import type { BackupView, ExaminedView, KeepingView } from '@/api'
import { AskOnce, day, dayAndTime, Failure } from '@/ui'
import { size } from './size'
import { useKeep, useKeeping } from './useKeeping'

/** Backups: when the last one was made and tried, one more now, and putting one back. */
export function KeepingPage() {
  const keeping = useKeeping()
  if (keeping.isPending) return <p className="py-12 text-slate">Looking for backups …</p>
  if (keeping.isError) return <Failure error={keeping.error} />
  return <Page of={keeping.data} />
}

function Page({ of }: { of: KeepingView }) {
  const { backUp, examine } = useKeep()
  const [last] = of.backups
  return (
    <div className="border-l border-copper pl-4 tablet:pl-8">
      <p className="text-note">
        <Link to="/record" className="text-copper-text underline underline-offset-4">
          the record
        </Link>
      </p>
      <h1 className="text-title">Backups</h1>
      <p className="mb-4 max-w-[40rem] text-slate">
        {last
          ? `The last one was made on ${dayAndTime(last.made_at)} and tested by restoring it.`
          : 'There is none yet. The server makes the first one within a few minutes.'}{' '}
        One is made every day. All of today’s are kept, then one for each of seven days, five weeks and twelve
        months.
      </p>
      {of.failed && (
        <p role="alert" className="mb-4 max-w-[44rem] border-l-4 border-magenta pl-3 text-magenta">
          The backup of {dayAndTime(of.failed.at)} failed: {of.failed.why}. It is tried again every five
          minutes.
        </p>
      )}
      {of.erasing && (
        <p role="status" className="mb-4 max-w-[44rem] border-l-4 border-amber pl-3 text-amber-text">
          Something that was erased is not out of the file yet, because another program reads the record. It
          is tried again by itself.
        </p>
      )}
      <div className="mb-8 flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <button
          type="button"
          className="action"
          disabled={backUp.isPending}
          onClick={() => {
            backUp.mutate()
          }}
        >
          {backUp.isPending ? 'Backing up …' : 'Back up now'}
        </button>
        <button
          type="button"
          className="action"
          disabled={examine.isPending}
          onClick={() => {
            examine.mutate()
          }}
        >
          {examine.isPending ? 'Checking …' : 'Check the whole record'}
        </button>
      </div>
      {backUp.isError && <Failure error={backUp.error} />}
      {examine.isError && <Failure error={examine.error} />}
      {examine.data && <Examined of={examine.data} />}
      <Backups of={of} />
      {of.doing && <Doing of={of.doing} />}
    </div>
  )
}

/** The server itself in a few figures, for whoever looks after it. */
function Doing({ of }: { of: NonNullable<KeepingView['doing']> }) {
  const figures = [
    ['devices and desks, last ten minutes', of.devices],
    ['boards and benches that are live', of.streams],
    ['the record', size(of.record_bytes)],
    ['room left on its disk', of.room_left == null ? 'not known' : size(of.room_left * 1_000_000)],
  ] as const
  return (
    <section aria-labelledby="doing" className="mt-10 max-w-[40rem]">
      <h2 id="doing" className="mb-1 text-body">
        how the server is doing
      </h2>
      <dl className="border-t border-rule">
        {figures.map(([what, figure]) => (
          <div key={what} className="flex justify-between gap-6 border-b border-rule py-1.5">
            <dt className="text-slate">{what}</dt>
            <dd className="font-mono">{figure}</dd>
          </div>
        ))}
      </dl>
      {of.troubles.length === 0 && <p className="mt-2 text-note text-teal">Nothing is wrong.</p>}
    </section>
  )
}

function Examined({ of }: { of: ExaminedView }) {
  if (of.faults.length === 0) {
    return (
      <p role="status" className="mb-8 border-l-4 border-teal pl-3">
        The record is whole: {of.events.toLocaleString('en')} events
        {of.erased > 0 && `, ${of.erased} of them erased`}, head <span className="font-mono">{of.head}</span>.
      </p>
    )
  }
  return (
    <div role="alert" className="mb-8 border-l-4 border-magenta pl-3">
      <p className="font-semibold text-magenta">Something is wrong with the record:</p>
      <ul>
        {of.faults.map((fault) => (
          <li key={fault}>{fault}</li>
        ))}
      </ul>
      <p className="text-slate">Nothing was changed. Put a backup back from before it went wrong.</p>
    </div>
  )
}

function Backups({ of }: { of: KeepingView }) {
  if (of.backups.length === 0) return null
  return (
    <table className="w-full border-collapse">
      <caption className="sr-only">backups, the newest first</caption>
      <thead>
        <tr className="border-b border-ink text-left text-note text-slate">
          <th scope="col" className="py-1.5 pr-6 font-normal">
            made and tested by restoring
          </th>
          <th scope="col" className="py-1.5 pr-6 text-right font-normal">
            events
          </th>
          <th scope="col" className="hidden py-1.5 pr-6 text-right font-normal tablet:table-cell">
            photos
          </th>
          <th scope="col" className="hidden py-1.5 pr-6 text-right font-normal tablet:table-cell">
            size
          </th>
          <th scope="col" className="py-1.5 font-normal">
            <span className="sr-only">putting it back</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {of.backups.map((backup) => (
          <Backup key={`${backup.lies_in}/${backup.name}`} of={backup} mayRestore={of.may_restore} />
        ))}
      </tbody>
    </table>
  )
}

function Backup({ of, mayRestore }: { of: BackupView; mayRestore: boolean }) {
  const { restore } = useKeep()
  const navigate = useNavigate()
  return (
    <tr className="border-b border-rule align-baseline">
      <th scope="row" className="py-2 pr-6 text-left font-normal">
        {dayAndTime(of.made_at)}
        {of.before_restore && (
          <span className="block text-note text-slate">
            the record as it was before a backup was restored
          </span>
        )}
        <span className="block font-mono text-note text-slate">{of.name}</span>
        <span className="block text-note break-all text-slate">{of.lies_in}</span>
        {of.erased_since > 0 && (
          <span className="block text-note text-amber-text">
            still holds {of.erased_since} {of.erased_since === 1 ? 'name or group' : 'names or groups'} erased
            since; it is deleted in its turn
          </span>
        )}
      </th>
      <td className="py-2 pr-6 text-right font-mono">{of.events.toLocaleString('en')}</td>
      <td className="hidden py-2 pr-6 text-right font-mono tablet:table-cell">{of.photos}</td>
      <td className="hidden py-2 pr-6 text-right font-mono whitespace-nowrap tablet:table-cell">
        {size(of.bytes)}
      </td>
      <td className="py-2">
        {mayRestore && (
          <AskOnce
            ask="restore"
            label={`restore the backup of ${dayAndTime(of.made_at)}`}
            keep="leave the record as it is"
            act={`Restore ${day(of.made_at)}`}
            pending={restore.isPending}
            error={restore.error}
            onAct={() => {
              restore.mutate(
                { name: of.name, lies_in: of.lies_in },
                { onSuccess: () => void navigate('/sign-in') },
              )
            }}
          >
            The whole record goes back to {dayAndTime(of.made_at)}. What is there now is backed up first.
            Everybody is signed out, phones too.
          </AskOnce>
        )}
      </td>
    </tr>
  )
}
