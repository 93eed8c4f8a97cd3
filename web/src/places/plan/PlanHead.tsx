import { useEffect } from 'react'
import { Link, useNavigate } from 'react-router'
import type { PlanView } from '@/api'
import { clockTime, Failure, StateMark } from '@/ui'
import type { Changes } from './usePlan'

const VIEWS = [
  { key: '', title: 'as form' },
  { key: 'text', title: 'as text' },
  { key: 'history', title: 'history' },
  { key: 'student', title: 'student sheet' },
  { key: 'risk', title: 'risk sheet' },
] as const

/** Which view, where the draft stands, and what can be done with it. */
export function PlanHead({ view, shown, changes }: { view: PlanView; shown: string; changes: Changes }) {
  const { draft } = view
  const busy = changes.change.isPending || changes.publish.isPending
  useUndoKeys(changes, draft?.can_undo === true, draft?.can_redo === true)
  const navigate = useNavigate()
  const failed = changes.change.error ?? changes.publish.error
  return (
    <div className="mb-4 print:hidden">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 text-note">
        <nav aria-label="views of the practical" className="flex flex-wrap gap-x-5">
          {VIEWS.map((v) => (
            <Link
              key={v.key}
              to={`/plan/${view.id}${v.key === '' ? '' : `/${v.key}`}`}
              aria-current={v.key === shown ? 'page' : undefined}
              className="min-h-6 border-b-2 border-transparent text-slate hover:text-ink aria-[current=page]:border-copper aria-[current=page]:text-ink"
            >
              {v.title}
            </Link>
          ))}
        </nav>
        <p className="text-slate" aria-live="polite">
          {busy
            ? 'keeping it …'
            : draft
              ? `draft, kept ${clockTime(draft.saved_at)}${draft.what === '' ? '' : ` · last: ${draft.what}`}`
              : `version ${view.published ?? 0}`}
        </p>
        <span className="ml-auto flex flex-wrap items-baseline gap-x-5">
          {draft && (
            <>
              <Act
                words="undo"
                off={!draft.can_undo || busy}
                onPress={() => {
                  changes.change.mutate({ kind: 'undo' })
                }}
              />
              <Act
                words="redo"
                off={!draft.can_redo || busy}
                onPress={() => {
                  changes.change.mutate({ kind: 'redo' })
                }}
              />
              <Discard
                published={view.published}
                onDiscard={() => {
                  changes.change.mutate(
                    { kind: 'discard' },
                    {
                      onError: () => {
                        if (view.published == null) void navigate('/shelf')
                      },
                    },
                  )
                }}
              />
            </>
          )}
          {view.published != null && (
            <Link
              className="underline decoration-rule underline-offset-4 hover:decoration-copper"
              to={`/practice/${view.id}`}
            >
              practise
            </Link>
          )}
          <a
            className="underline decoration-rule underline-offset-4 hover:decoration-copper"
            href={`/api/v1/practicals/${view.id}/file`}
            download
          >
            download
          </a>
          {draft && (
            <button
              type="button"
              className="action text-body"
              disabled={busy || view.problems.length > 0}
              onClick={() => {
                changes.publish.mutate()
              }}
            >
              Publish as version {(view.published ?? 0) + 1}
            </button>
          )}
        </span>
      </div>
      {failed && <Failure error={failed}>What was kept before is as it was.</Failure>}
      <Problems view={view} />
    </div>
  )
}

function Act({ words, off, onPress }: { words: string; off: boolean; onPress: () => void }) {
  return (
    <button
      type="button"
      disabled={off}
      className="min-h-6 underline decoration-rule underline-offset-4 enabled:hover:decoration-copper disabled:text-pencil disabled:no-underline"
      onClick={onPress}
    >
      {words}
    </button>
  )
}

/** Throwing a draft away cannot be undone: it is asked once more, in its place. */
function Discard({ published, onDiscard }: { published: number | null | undefined; onDiscard: () => void }) {
  return (
    <details className="relative">
      <summary className="min-h-6 underline decoration-rule underline-offset-4">discard</summary>
      <span className="absolute right-0 z-10 w-64 border-l-3 border-magenta bg-sheet p-3">
        {published == null
          ? 'It was never published: nothing of it stays.'
          : `Back to version ${published}; the draft is gone.`}
        <button type="button" className="action block text-magenta" onClick={onDiscard}>
          discard the draft
        </button>
      </span>
    </details>
  )
}

/** What has to be mended before it can be published, each leading to its place. */
function Problems({ view }: { view: PlanView }) {
  const { problems } = view
  if (problems.length === 0) return null
  return (
    <div role="status" className="mt-3 border-l-3 border-magenta py-1 pl-3">
      <p className="flex items-center gap-2 font-semibold text-magenta">
        <StateMark kind="wrong" />
        {problems.length === 1 ? 'One error' : `${problems.length} errors`} to correct before it can be
        published
      </p>
      {view.file_is_earlier && (
        <p className="text-note text-slate">
          The text cannot be read as a whole. The form shows it as it last could be, and waits; nothing typed
          is lost.
        </p>
      )}
      {view.plan_is_earlier && !view.file_is_earlier && (
        <p className="text-note text-slate">What follows from it is shown as it was before.</p>
      )}
      <ul className="mt-1 text-note">
        {problems.slice(0, 8).map((p, i) => (
          <li key={i}>
            <Link
              className="underline decoration-rule underline-offset-4 hover:decoration-copper"
              to={`/plan/${view.id}/text#L${p.place.line}.${p.place.column}`}
            >
              line {p.place.line}, character {p.place.column}
            </Link>
            {p.place.item !== '' && `, ${p.place.item}`}: {p.reason}
            {p.hint != null && <span className="text-slate"> – {p.hint}</span>}
          </li>
        ))}
        {problems.length > 8 && <li className="text-slate">and {problems.length - 8} more</li>}
      </ul>
    </div>
  )
}

/** Ctrl+Z and Ctrl+Shift+Z, unless somebody is typing: a field has an undo of its own. */
function useUndoKeys(changes: Changes, canUndo: boolean, canRedo: boolean) {
  const { mutate } = changes.change
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = (event.target as HTMLElement | null)?.closest('input, textarea, select')
      if (typing || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return
      event.preventDefault()
      if (event.shiftKey && canRedo) mutate({ kind: 'redo' })
      if (!event.shiftKey && canUndo) mutate({ kind: 'undo' })
    }
    window.addEventListener('keydown', onKey)
    return () => {
      window.removeEventListener('keydown', onKey)
    }
  }, [mutate, canUndo, canRedo])
}
