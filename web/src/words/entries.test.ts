import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import type { BenchSlip, EntryBody, Slip } from '@/api'
import { entryWords, type Called } from './entries'
import { benchSlipName, slipDid, slipHint, slipName } from './slips'

const called: Called = {
  readings: [{ symbol: 'V_end[2]', label: 'final reading, trial 2' }],
  observations: [{ symbol: 'fizz', question: 'Does it fizz?' }],
  results: [{ name: 'n_salt', label: 'amount of salt' }],
  materials: [{ symbol: 'acid', name: 'sulfuric acid' }],
  steps: ['Weigh the dish'],
}
const deviation = (withdrawn: boolean): EntryBody => ({
  kind: 'deviation',
  nr: 'd1',
  step: 0,
  what: { kind: 'lost', material: 'acid', amount: '2 mL' },
  note: 'on the bench',
  withdrawn,
})

it.each<[EntryBody, string, string]>([
  [{ kind: 'reading', symbol: 'V_end[2]', text: '21.15', unit: 'mL' }, 'final reading, trial 2', '21.15 mL'],
  [
    {
      kind: 'reading',
      symbol: 'V_end[2]',
      text: '21.15',
      unit: 'mL',
      on: 'Burette 3',
      flags: ['hot'],
      borrowed: 'Beryl',
    },
    'final reading, trial 2',
    '21.15 mL (Burette 3, borrowed from Beryl, still hot)',
  ],
  [{ kind: 'confirmed', symbol: 'V_end[2]' }, 'final reading, trial 2', 'checked by the group'],
  [{ kind: 'observation', symbol: 'fizz', choice: 'a little' }, 'Does it fizz?', 'a little'],
  [{ kind: 'answer', result: 'n_salt', text: '25.0', unit: 'mmol' }, 'amount of salt', 'answer 25.0 mmol'],
  [{ kind: 'struck', place: 'reading', name: 'V_end[2]' }, 'final reading, trial 2', 'taken out'],
  [{ kind: 'struck', place: 'observation', name: 'fizz' }, 'Does it fizz?', 'taken out'],
  [{ kind: 'struck', place: 'answer', name: 'n_salt' }, 'amount of salt', 'taken out'],
  [{ kind: 'begun', step: 0 }, 'step 1, Weigh the dish', 'begun'],
  [{ kind: 'step', step: 0, done: true }, 'step 1, Weigh the dish', 'done'],
  [{ kind: 'step', step: 0, done: false }, 'step 1, Weigh the dish', 'not done after all'],
  // A step that an earlier version of the practical had.
  [{ kind: 'clock', step: 9, running: true }, 'step 10', 'clock started'],
  [{ kind: 'clock', step: 0, running: false }, 'step 1, Weigh the dish', 'clock stopped'],
  [deviation(false), 'step 1, Weigh the dish', 'lost about 2 mL of sulfuric acid (on the bench)'],
  [deviation(true), 'step 1, Weigh the dish', 'withdrawn'],
  [{ kind: 'tag', vessel: 'vial', tag: '17' }, 'vial', 'number 17'],
  [{ kind: 'bottle', material: 'acid', name: 'bottle A' }, 'sulfuric acid', 'from bottle A'],
  // A name that nothing has any more is shown as it is.
  [{ kind: 'bottle', material: 'gone', name: 'bottle A' }, 'gone', 'from bottle A'],
  [{ kind: 'photo', name: 'x', step: 0, deleted: false }, 'step 1, Weigh the dish', 'photo taken'],
  [{ kind: 'photo', name: 'x', step: 0, deleted: true }, 'step 1, Weigh the dish', 'photo deleted'],
  [{ kind: 'heard', message: 'm' }, 'message', 'read'],
  [{ kind: 'help', wanted: true, about: 'the burette' }, 'help', 'called the burette'],
  [{ kind: 'help', wanted: false }, 'help', 'no longer needed'],
])('says in a line what was said: %o', (entry, about, said) => {
  expect(entryWords(entry, called)).toEqual({ about, said })
})

it('has a name, a finding and a hint for every slip: read them when they change', async () => {
  const types = JSON.parse(readFileSync('../openapi.json', 'utf8')) as {
    components: { schemas: { Slip: { enum: Slip[] }; BenchSlip: { enum: BenchSlip[] } } }
  }
  const { Slip: sums, BenchSlip: bench } = types.components.schemas
  const dish = { what: [{ symbol: 'm_dish', label: 'the dish' }] }
  const lines = [
    ...sums.enum.map((s) => `${s}: ${slipName(s)} | ${slipDid(s, dish)} | ${slipHint(s, 'the dish')}`),
    ...bench.enum.map((s) => `${s}: ${benchSlipName(s)}`),
  ]
  await expect(lines.join('\n') + '\n').toMatchFileSnapshot('./slips.sentences.txt')
})
