import type { ReactNode } from 'react'
import { PrintButton } from './PrintButton'

/** A sheet of paper on the screen: what is seen is what is printed. */
export function Sheet({ title, aside, children }: { title: string; aside: ReactNode; children: ReactNode }) {
  return (
    <article className="mx-auto max-w-[50rem] border border-rule bg-sheet px-5 py-6 tablet:px-12 tablet:py-10 print:max-w-none print:border-0 print:bg-transparent print:p-0">
      <div className="mb-6 flex flex-wrap items-baseline gap-6 border-b border-rule pb-4 text-note print:hidden">
        {aside}
        <PrintButton className="ml-auto text-body" />
      </div>
      <h1 className="text-title">{title}</h1>
      {children}
    </article>
  )
}

/** A heading that stays with what it heads. */
export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mt-6">
      <h2 className="mb-1 text-body break-after-avoid">{title}</h2>
      {children}
    </section>
  )
}
