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

  it('keeps the points of a line in their order, and leaves out what is not there', () => {
    const request = ask('line', { x: '0; 2;4', y: '0.1\n0.2; 0.3', blank: ' ', dilution: '' })
    expect(request).toEqual({
      kind: 'calibration',
      ask: 'unknown',
      points: { x: ['0', '2', '4'], y: ['0.1', '0.2', '0.3'] },
      unknown: ['0.301', '0.299', '0.300'],
      blank: [],
      dilution: null,
    })
    expect(ask('charge', { electrons: 'two' })).toMatchObject({ electrons: 0 })
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

  it('takes an acid without exponents as a strong one, and draws nothing up to nothing', () => {
    const curve = (typed: Record<string, string>) => {
      const request = ask('curve', typed)
      return request.kind === 'acid_base' && request.ask === 'titration' ? request : undefined
    }
    expect(curve({})?.flask[0]).toMatchObject({ role: 'weak-acid', pka: [4.76] })
    expect(curve({ pka: ' ' })?.flask[0]).toMatchObject({ role: 'strong-acid', pka: [] })
    const at = curve({ end: '40,0' })?.at ?? []
    expect([at[0], at.at(-1)]).toEqual([0, 40])
    for (const end of ['0', '-3', 'a lot', 'Infinity']) expect(curve({ end })?.at).toEqual([])
  })

  it('parts a line of a sheet at its first sign of equality and loses no line', () => {
    const request = ask('sheet', {
      quantities: 'm = 1.271 ± 0.002 g\n\nV=25.00 mL\nno value',
      materials: 'a = b = c',
    })
    expect(request).toMatchObject({
      quantities: [
        { symbol: 'm', value: '1.271 ± 0.002 g' },
        { symbol: 'V', value: '25.00 mL' },
        { symbol: 'no value', value: '' },
      ],
      materials: [{ symbol: 'a', formula: 'b = c' }],
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
