import { renderToStaticMarkup } from 'react-dom/server'
import { describe, expect, it } from 'vitest'
import type { AskedToBegin } from '@/api'
import { AIMS, aimName, whyWords } from '@/words'
import { Question } from './Question'

const asked = (over: Partial<AskedToBegin>): AskedToBegin => ({
  field: 'mass',
  about: '',
  takes: { kind: 'text', suggested: [] },
  value: '0.13 g',
  typed: false,
  why: { kind: 'takes-a-titre', titre: '25.0 mL' },
  problem: null,
  ...over,
})

const shown = (over: Partial<AskedToBegin>, said?: string) =>
  renderToStaticMarkup(
    <Question asked={asked(over)} said={said} balanced={undefined} onSay={() => undefined} />,
  )

describe('a question', () => {
  it('shows what is proposed with its reason, and what was typed before it', () => {
    expect(shown({})).toContain('value="0.13 g"')
    expect(shown({})).toContain('takes about 25.0 mL')
    expect(shown({ value: '0.20 g', typed: true, why: null }, '0.20 g')).toContain('value="0.20 g"')
    // What was typed stands, whatever came back of it.
    expect(shown({ value: '0.13 g' }, '0.5')).toContain('value="0.5"')
  })

  it('says what is wrong instead of why, and tells it to whoever cannot see it', () => {
    const wrong = shown({ problem: 'that takes 94.4 mL, and the burette holds 50 mL' }, '0.5 g')
    expect(wrong).toContain('role="alert"')
    expect(wrong).toContain('aria-invalid="true"')
    expect(wrong).not.toContain('takes about')
  })

  it('keeps an answer that is none of the choices, so that it can be seen and mended', () => {
    const html = shown({
      field: 'burette',
      takes: { kind: 'choice', of: ['Burette 50 mL'] },
      value: 'the long one',
    })
    expect(html).toMatch(/<option[^>]*selected=""[^>]*>the long one/)
    expect(html).toContain('Burette 50 mL')
  })

  it('names the substance that it is about', () => {
    expect(shown({ field: 'limiting-as', about: 'copper(II) oxide' })).toContain('copper(II) oxide comes as')
  })

  it('ticks yes, and says nothing of what is usual there', () => {
    const yes = shown({ field: 'marks', takes: { kind: 'yes-or-no' }, value: 'yes', why: { kind: 'usual' } })
    expect(yes).toContain('checked=""')
    expect(yes).not.toContain('usual')
  })
})

describe('what can be found', () => {
  it('stands once each, and is called by its group', () => {
    const aims = AIMS.flatMap((g) => g.aims.map(([aim]) => aim))
    expect(new Set(aims).size).toBe(aims.length)
    expect(aimName('yield-of-precipitate')).toEqual({ of: 'a yield', name: 'of a precipitate' })
  })

  it('has a reason in words for every kind of proposal', () => {
    expect(whyWords({ kind: 'could-make', amount: '1.59 g', product: '5 g' })).toBe(
      '1.59 g of it, for 5 g of product',
    )
    expect(whyWords({ kind: 'undiluted-takes', titre: '213 mL' })).toBe('undiluted it would take 213 mL')
  })
})
