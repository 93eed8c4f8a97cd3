import { createContext, useContext } from 'react'
import type { Edit, PlanView, PracticalFile } from '@/api'
import type { Editing } from './FieldEditor'
import type { Field } from './fieldKinds'

export type SectionName = keyof PracticalFile

/** What every line of the form needs. */
export interface FormValue {
  file: PracticalFile
  plan: PlanView['plan']
  labels: PlanView['labels']
  techniques: PlanView['techniques']
  fields: Record<string, Field[]>
  editing: Editing
  add: (section: SectionName) => void
  edit: (what: string, edit: Edit) => void
  remove: (section: SectionName, at: number, name: string) => void
  move: (section: SectionName, from: number, to: number) => void
}

export const FormContext = createContext<FormValue | null>(null)

export function useForm(): FormValue {
  const value = useContext(FormContext)
  if (!value) throw new Error('a line of the form stands inside the form')
  return value
}
