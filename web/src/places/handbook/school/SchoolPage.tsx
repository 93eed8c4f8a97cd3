import type { School } from '@/api'
import { dayAndTime, Failure } from '@/ui'
import { schoolChoices, schoolQuestions, type SchoolQuestion } from '@/words'
import { AgreementQuestion } from './AgreementQuestion'
import { MassesQuestion } from './MassesQuestion'
import { Choices, Question } from './Question'
import { useChoose, useSchool } from './useSchool'

/** Where schools differ, each question with its answers as they look on paper. */
export function SchoolPage() {
  const kept = useSchool()
  const choose = useChoose()
  if (kept.isPending) return <p className="py-12 text-slate">Looking up how you work …</p>
  if (kept.isError) return <Failure error={kept.error} />
  const { changed_at } = kept.data
  // The next choice goes on from the one that is still on its way.
  const school = choose.isPending ? choose.variables : kept.data.school
  const set = (change: Partial<School>) => {
    choose.mutate({ ...school, ...change })
  }
  // Told beside the question that was answered: only these two can be answered wrongly.
  const wrong = (of: 'agreement' | 'atomic_masses') =>
    choose.isError && choose.variables[of] !== school[of] ? choose.error : null
  return (
    <section aria-labelledby="school" className="max-w-[62rem]">
      <h1 id="school" className="text-title">
        How our school works
      </h1>
      <p className="mb-2 max-w-[52rem] text-slate">
        Good schools differ here. Choose once: calculations, digits, findings and marks follow. A practical
        can say otherwise on its plan, and a run keeps what held when it was opened. An answer that is right
        by another rule stays right, with a word about yours.
      </p>
      <p className="mb-4 text-note text-slate">
        {changed_at == null
          ? 'Nobody has chosen yet: these are the usual ones.'
          : `Since ${dayAndTime(changed_at)}.`}
      </p>
      <div className="border-b border-rule">
        <MassesQuestion
          value={school.atomic_masses}
          error={wrong('atomic_masses')}
          onChoose={(atomic_masses) => {
            set({ atomic_masses })
          }}
        />
        <AgreementQuestion
          value={school.agreement}
          error={wrong('agreement')}
          onChoose={(agreement) => {
            set({ agreement })
          }}
        />
        {schoolQuestions.map((q) => (
          <Fixed key={q} of={q} school={school} onChoose={set} />
        ))}
      </div>
    </section>
  )
}

/** A question whose answers are all there. */
function Fixed({
  of,
  school,
  onChoose,
}: {
  of: SchoolQuestion
  school: School
  onChoose: (change: Partial<School>) => void
}) {
  const { asks, choices } = schoolChoices[of]
  return (
    <Question asks={asks}>
      <Choices
        label={asks}
        value={school[of]}
        of={choices}
        onChoose={(value) => {
          onChoose({ [of]: value })
        }}
      />
    </Question>
  )
}
