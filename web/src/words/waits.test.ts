import { describe, expect, it } from 'vitest'
import type { RunWait, VisitView, Waiting } from '@/api'
import { lessonFor, runWaitWords, waitingWords } from './waits'

/** By the clock on the wall, November 2026: the 10th is a Tuesday. */
const at = (day: number, time: string) => new Date(`2026-11-${day}T${time}`).getTime()
const HOUR = 3_600_000

const oven: Waiting = {
  step: 4,
  title: 'Dry overnight',
  wait: '12 to 72 h',
  since: at(10, '14:10'),
  ready_at: at(10, '14:10') + 12 * HOUR,
  latest_at: at(10, '14:10') + 72 * HOUR,
  then: 5,
  then_title: 'Weigh the product',
}

describe('what waits at one bench', () => {
  it.each([
    [
      'just now',
      at(10, '14:30'),
      'since 14:10, 20 min. Ready from Wednesday 02:10 on (12 to 72 h). Then: Weigh the product.',
    ],
    ['over night', at(12, '10:10'), 'since Tuesday 14:10, 2 days. It is ready. Next: Weigh the product.'],
    [
      'too long',
      at(14, '09:00'),
      'It should have been gone on with by Friday 14:10. Next: Weigh the product.',
    ],
  ])('is told %s', (_, now, words) => {
    expect(waitingWords(oven, now)).toContain(words)
  })

  it('goes on in the same step where that still has something to weigh', () => {
    expect(waitingWords({ ...oven, then: 4, then_title: null }, at(12, '10:10'))).toContain(
      'Next: weigh and go on.',
    )
  })
})

describe('what waits of a class', () => {
  const visits: VisitView[] = [
    { nr: 1, begins_at: at(10, '13:00'), minutes: 90 },
    { nr: 2, begins_at: at(12, '10:05'), minutes: 60 },
    { nr: 3, begins_at: at(17, '13:00'), minutes: 90 },
  ]
  const wait: RunWait = {
    step: 'Dry overnight',
    then: 'Weigh the product',
    groups: ['Beryl', 'Galena', 'Jasper', 'Olivine'],
    since: oven.since,
    ready_at: oven.ready_at,
    latest_at: oven.latest_at ?? null,
  }

  it('is gone on with at the first lesson at whose end it is ready', () => {
    expect(lessonFor(visits, oven.ready_at, at(10, '15:00'))?.nr).toBe(2)
    // Ready in the middle of a lesson is ready in that lesson; after its end it is the next one's.
    expect(lessonFor(visits, at(12, '10:50'), at(10, '15:00'))?.nr).toBe(2)
    expect(lessonFor(visits, at(12, '11:06'), at(10, '15:00'))?.nr).toBe(3)
    expect(lessonFor(visits, at(18, '10:00'), at(10, '15:00'))).toBeUndefined()
  })

  it('is reminded of with who, since when, and when it goes on', () => {
    expect(runWaitWords(wait, visits, at(10, '15:00'))).toBe(
      'Dry overnight: 4 groups, since 14:10. Weigh the product on Thursday 10:05.',
    )
    expect(runWaitWords({ ...wait, groups: ['Beryl'] }, visits, at(12, '10:30'))).toBe(
      'Dry overnight: Beryl, since Tuesday 14:10. Weigh the product in this lesson.',
    )
  })

  it('says where no lesson is planned, and where the next one is too late', () => {
    expect(runWaitWords(wait, visits.slice(0, 1), at(10, '15:00'))).toContain(
      'Weigh the product: ready from Wednesday 02:10 on, and no lesson is planned after that.',
    )
    expect(
      runWaitWords(
        wait,
        visits.filter((v) => v.nr !== 2),
        at(12, '15:00'),
      ),
    ).toContain('on Tuesday 13:00. It should not wait longer than Friday 14:10.')
  })
})
