/** The place of an answer: the result; of a student's own sheet with the student's number. As the core has it. */
export function answerSlot(result: string, person: number | null | undefined): string {
  return person == null ? result : `${result} by ${person}`
}
