import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { client, unwrapped, type Edit, type Note, type PlanView } from '@/api'
import { WorkedBy } from '@/ui'
import { schoolWords } from '@/words'
import { CheckedFor } from '../CheckedFor'
import { MarginLeaf } from '../MarginLeaf'
import { StartRun } from '../StartRun'
import type { Changes } from '../usePlan'
import { editOf } from './edits'
import { Answering } from './Answering'
import { blankOf } from './blank'
import { Differences } from './Differences'
import { fieldsOf } from './fields'
import { FormContext, type FormValue, type SectionName } from './formContext'
import { Head } from './Head'
import { Ledger } from './Ledger'
import { Reactions } from './Reactions'
import { Readings } from './Readings'
import { Results } from './Results'
import { Room } from './Room'
import { Steps } from './Steps'

/** The practical as a form: every line can be opened in its place, and says beside itself what follows from it. */
export function FormView({ view, changes }: { view: PlanView; changes: Changes }) {
  const techniques = useQuery({
    queryKey: ['techniques'],
    queryFn: () => unwrapped(client.GET('/api/v1/handbook/techniques')),
    staleTime: Infinity,
  })
  const kit = useQuery({
    queryKey: ['kit'],
    queryFn: () => unwrapped(client.GET('/api/v1/handbook/instruments')),
    staleTime: Infinity,
  })
  const file = view.file
  const value = useMemo<FormValue | null>(() => {
    if (!file) return null
    const list = (section: SectionName) => (file[section] as unknown[] | undefined) ?? []
    return {
      file,
      plan: view.plan,
      labels: view.labels,
      techniques: view.techniques,
      fields: fieldsOf(file, techniques.data?.map((t) => t.id) ?? []),
      editing: {
        problems: view.problems,
        readOnly: view.file_is_earlier,
        set: (path, next, what) => {
          changes.edit(what, editOf(path, next))
        },
      },
      add: (section) => {
        const value = blankOf(section, file, kit.data ?? [])
        const edits: Edit[] = []
        // A reading needs something that it is read on.
        if (section === 'readings' && list('instruments').length === 0 && kit.data?.[0]) {
          edits.push({ kind: 'insert', path: ['instruments'], value: { ...kit.data[0] } })
        }
        changes.edit(`new: ${section}`, ...edits, { kind: 'insert', path: [section], value })
      },
      edit: changes.edit,
      remove: (section, at, name) => {
        changes.edit(`out: ${name}`, { kind: 'remove', path: [section], at })
      },
      move: (section, from, to) => {
        changes.edit(`order: ${section}`, { kind: 'move', path: [section], from, to })
      },
    }
  }, [file, view, changes, techniques.data, kit.data])
  if (!value) {
    return (
      <p className="border-y border-rule py-4 text-slate">
        This text was never one that a form can show. Mend it as text first.
      </p>
    )
  }
  return (
    <FormContext value={value}>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-x-10 desk:grid-cols-[minmax(0,1fr)_17rem] print:block">
        <div className="min-w-0">
          <Head />
          <Reactions />
          <Ledger />
          <Steps />
          <Readings />
          <Results />
          <Answering />
          <Differences />
          <Room />
          <p className="mt-8 border-l-3 border-amber py-1 pl-3 text-note text-amber-text">
            Local rules, the supplier's safety data sheet and your own risk assessment come first.
          </p>
        </div>
        <MarginLeaf notes={inPageOrder(view.plan?.notes ?? [])}>
          <CheckedFor plan={view.plan} />
          <WorkedBy words={schoolWords(view.school)} />
          {view.published != null && (
            <StartRun practical={view.id} draft={view.draft != null} file={file ?? null} />
          )}
        </MarginLeaf>
      </div>
    </FormContext>
  )
}

/** Sections as they stand on the page. */
const ORDER = ['reactions', 'materials', 'steps', 'readings', 'observations', 'results']

/** The notes from the top of the page to its end. */
function inPageOrder(notes: readonly Note[]): Note[] {
  const place = (n: Note) => ORDER.indexOf(String(n.beside[0] ?? '')) * 1000 + Number(n.beside[1] ?? -1)
  return [...notes].sort((a, b) => place(a) - place(b))
}
