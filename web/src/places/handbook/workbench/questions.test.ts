import { describe, expect, it } from 'vitest'
import { examples, isAskable, QUESTIONS } from './questions'

const ask = (key: string, typed: Record<string, string> = {}) => {
  const question = QUESTIONS.find((q) => q.key === key)
  if (!question) throw new Error(key)
  return question.request({ ...examples(question), ...typed })
}

describe('questions of the workbench', () => {
  it('tells a solid, a solution and a liquid apart by what is typed', () => {
    const forms = (used: string) => {
      const request = ask('limiting', { a_used: used })
      return request.kind === 'reaction' && request.ask === 'yield' ? request.reagents[0]?.supply : undefined
    }
    expect(forms('1.500 g')).toEqual({ form: 'solid', mass: '1.500 g', purity: null })
    expect(forms('1.500 g; 98.5 %')).toEqual({ form: 'solid', mass: '1.500 g', purity: '98.5 %' })
    expect(forms('20.00 mL; 0.200 mol/L')).toMatchObject({ form: 'solution', concentration: '0.200 mol/L' })
    expect(forms('5.5 mL; 1.082 g/mL; 97.0 %')).toMatchObject({
      form: 'liquid',
      density: '1.082 g/mL',
      purity: '97.0 %',
    })
  })

  it('keeps a rough titre apart and a field that is empty out', () => {
    const request = ask('titration', { titres: '(26.4 mL); 25.70 mL\n25.75 mL', blank: ' ' })
    expect(request).toMatchObject({
      blank: null,
      titres: [
        { at: '26.4 mL', rough: true },
        { at: '25.70 mL', rough: false },
        { at: '25.75 mL', rough: false },
      ],
    })
  })

  it('asks only when nothing needed is missing', () => {
    for (const question of QUESTIONS) {
      expect(isAskable(question, examples(question)), question.key).toBe(true)
      const first = question.fields[0]
      expect(isAskable(question, { ...examples(question), [first?.key ?? '']: '  ' })).toBe(false)
    }
  })
})
