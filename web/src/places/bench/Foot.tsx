import type { BenchView } from '@/api'
import type { Entering } from './useBench'
import { Writer } from './answer/Writer'

/** Whose bench this is, how far, and what this device still holds unsent. */
export function Foot({ view, entering, at }: { view: BenchView; entering: Entering; at: number | null }) {
  const refused = entering.onTheirWay.filter((e) => e.refused !== undefined)
  const unsent = entering.onTheirWay.filter((e) => e.seq === undefined && e.refused === undefined).length
  const overtaking = entering.onTheirWay.find((e) => e.overtook === true)
  return (
    <footer className="border-t border-rule py-2.5 text-note text-slate">
      {refused.map((e) => (
        <p key={e.order} role="alert" className="mb-2 border-l-3 border-magenta pl-3 text-body text-ink">
          <b className="font-semibold text-magenta">Not taken:</b> {e.refused}. Still here:{' '}
          {wordsOf(e.entry.entry)}.{' '}
          {e.whileClosed === true && !view.closed && (
            <button
              type="button"
              className="mr-4 min-h-11 font-semibold underline underline-offset-4"
              onClick={() => {
                entering.sendAgain(e.order)
              }}
            >
              The class is open again: send it
            </button>
          )}
          <button
            type="button"
            className="min-h-11 font-semibold underline underline-offset-4"
            onClick={() => {
              entering.drop(e.order)
            }}
          >
            Forget it
          </button>
        </p>
      ))}
      {overtaking && (
        <p role="status" className="mb-2 border-l-3 border-amber pl-3 text-body text-amber-text">
          Another device had corrected the same reading. Both are kept; the one from here came later and
          stands.{' '}
          <button
            type="button"
            className="min-h-11 font-semibold underline underline-offset-4"
            onClick={() => {
              entering.drop(overtaking.order)
            }}
          >
            Understood
          </button>
        </p>
      )}
      <p className="flex flex-wrap justify-between gap-x-4">
        <span>
          {view.group} · {at === null ? 'all entries' : `step ${at + 1} of ${view.steps.length}`}
        </span>
        <Writer view={view} writer={entering.writer} onWriter={entering.setWriter} />
        <span role="status" className={unsent > 0 ? 'font-semibold text-amber-text' : ''}>
          {!entering.started
            ? 'looking for what this device holds'
            : unsent > 0
              ? `${unsent} held on this device${entering.connected ? '' : ', no network'}`
              : entering.connected
                ? 'all of it has arrived'
                : 'no network; entries are kept here'}
        </span>
      </p>
    </footer>
  )
}

function wordsOf(entry: Entering['onTheirWay'][number]['entry']['entry']): string {
  switch (entry.kind) {
    case 'reading':
      return `${entry.symbol} ${entry.text} ${entry.unit}`
    case 'answer':
      return `${entry.result} ${entry.text} ${entry.unit}`
    case 'observation':
      return entry.choice
    case 'step':
    case 'begun':
      return `step ${entry.step + 1}`
    case 'clock':
      return `the clock of step ${entry.step + 1}`
    case 'deviation':
      return entry.note === undefined || entry.note === '' ? 'what went wrong' : entry.note
    case 'tag':
      return `${entry.vessel} ${entry.tag}`
    case 'bottle':
      return entry.name
    case 'confirmed':
      return `${entry.symbol} checked`
    case 'heard':
      return 'that a message was read'
    case 'photo':
      return 'a photo'
    case 'struck':
      return entry.name
    case 'help':
      return 'the call for help'
  }
}
