import { expect, test } from '@playwright/test'
import { group, instructor, look, PHONE } from './people'

/** Every view, looked at by axe; with KEEN_BEAKER_PICTURES set, the main ones are kept as pictures. */

const desk: readonly (readonly [string, string, string])[] = [
  ['/shelf', 'library', 'shelf'],
  ['/shelf/begin', 'What is to be found?', 'begin-aims'],
  [
    '/shelf/begin?find=sample-by-titration&equation=CH3COOH+%2B+NaOH+-%3E+CH3COONa+%2B+H2O&sample-strength=0.7+to+1.0+mol/L',
    'how it will read',
    'begin',
  ],
  ['/plan/epsom-salt', 'what follows from it', 'plan'],
  ['/plan/strontium-sulfate', 'recipe B', 'recipes'],
  ['/plan/zinc-iodide/text', 'it can be published', 'plan-text'],
  ['/plan/epsom-salt/student', 'with answers', 'student-sheet'],
  ['/plan/epsom-salt/risk', 'step by step', 'risk-sheet'],
  ['/plan/epsom-salt/history', 'the built-in library', 'history'],
  ['/prepare', 'since 10:05', 'prepare'],
  ['/prepare/2/amounts', '2 rinses of', 'prepare-amounts'],
  ['/prepare/2/solutions/base', 'plastic bottle', 'prepare-recipe'],
  ['/prepare/2/trays', 'for each group', 'prepare-trays'],
  ['/prepare/4/labels', 'Print them', 'prepare-labels'],
  ['/prepare/4/sheets', 'Print it', 'prepare-sheets'],
  ['/account', 'your passphrase now', 'account'],
  ['/prepare/calendar', 'days with lessons', 'prepare-calendar'],
  ['/prepare/bottles/bottle%20A', 'used by', 'prepare-bottle'],
  ['/prepare/1/time', 'No plan is shorter', 'prepare-time'],
  ['/board/1', 'to look at', 'board'],
  ['/board/2', 'to look at', 'board-titration'],
  ['/board/4', 'waiting', 'board-oven'],
  ['/board/4/people', 'the key is yours alone', 'people'],
  ['/board/3', 'recipe B', 'board-recipes'],
  ['/board/3/groups/18', 'borrowed from Ammonite', 'group'],
  ['/board/1/projector', 'join with', 'wall'],
  ['/board/3/labels', 'Print them', 'labels'],
  ['/shelf/classes/1', 'more people', 'classes'],
  ['/check/1/m_theory', 'worked from their own readings', 'check'],
  ['/check/1/marks', 'download', 'marks'],
  ['/check/3/class', 'slips of the class', 'class'],
  ['/check/3/paper', 'Enter keeps a cell', 'paper'],
  ['/check/3/filtrate', 'A good answer says', 'reason'],
  ['/record', 'on one scale', 'record'],
  ['/record/1', 'what each group found', 'record-run'],
  ['/record/keeping', 'One is made every day', 'record-keeping'],
  ['/record/1/import', 'One row for each group', 'record-import'],
  ['/record/people/4', 'answers', 'record-person'],
  ['/record/1/groups/3', 'worked out from these readings', 'record-group'],
  ['/handbook/workbench/limiting', 'worked out', 'workbench'],
  ['/handbook/workbench/curve?pka=2.15%3B%207.20%3B%2012.35&end=90', 'proton 3', 'curve'],
  ['/handbook/workbench/sheet', 'one formula fits', 'sheet'],
  ['/handbook/methods', 'Limiting reagent', 'methods'],
  ['/handbook/substances?find=nitrate', 'lunar caustic', 'substances'],
  ['/handbook/techniques', 'suction filtration', 'techniques'],
  ['/handbook/elements', 'hydrogen', 'elements'],
  ['/handbook/glassware', 'one-mark flasks', 'glassware'],
  ['/handbook/room', 'Balance 3', 'room'],
  ['/handbook/school', 'the standard values', 'school'],
]

/** Looked at, and not kept as pictures: there are more views than pictures. */
const UNKEPT: readonly string[] = [
  'begin-aims',
  'record',
  'record-run',
  'record-keeping',
  'record-import',
  'record-person',
  'plan-text',
  'risk-sheet',
  'prepare',
  'prepare-amounts',
  'prepare-trays',
  'prepare-labels',
  'prepare-sheets',
  'prepare-calendar',
  'account',
  'prepare-bottle',
  'board-oven',
  'people',
  'methods',
  'glassware',
  'room',
  'school',
  'elements',
  'history',
  'recipes',
  'student-sheet',
  'labels',
  'classes',
  'curve',
  'sheet',
  'techniques',
  'marks',
  'paper',
  'board-recipes',
  'reason',
  'substances',
]

for (const scheme of ['light', 'dark'] as const) {
  test(`the desk, ${scheme}`, async ({ browser }) => {
    // Axe takes its time with a long view on a busy machine: so much for each, not for all together.
    test.setTimeout(20_000 * desk.length)
    const page = await instructor(browser, scheme)
    for (const [address, words, name] of desk) {
      await page.goto(address)
      await expect(page.getByText(words).first()).toBeVisible()
      await expect(page.getByText('…')).toHaveCount(0)
      await look(page, pictureOf(name, scheme))
    }
  })
}

test('a plan with every line open, and with something to mend', async ({ browser }) => {
  const page = await instructor(browser)
  await page.goto('/plan/gypsum-water')
  for (const name of [
    'calcium sulfate dihydrate',
    'Heat, cool, weigh',
    'mass after heating',
    'waters of crystallisation',
  ]) {
    await page.getByRole('button', { name: `change ${name}`, exact: true }).click()
  }
  const everything = page.getByRole('button', { name: 'all fields' })
  while ((await everything.count()) > 0) await everything.first().click()
  await look(page)
  await page.getByLabel('formula', { exact: true }).first().fill('CaSO4·2H2Ox')
  await page.getByLabel('formula', { exact: true }).first().press('Tab')
  await expect(page.getByRole('status').filter({ hasText: 'to correct' })).toBeVisible()
  await look(page)
  await page.getByRole('button', { name: 'undo' }).click()
})

test('the board with its join code, and the sheet of keys', async ({ browser }) => {
  const page = await instructor(browser)
  await page.goto('/board/1')
  await expect(page.getByRole('table')).toBeVisible()
  await page.keyboard.press('j')
  await expect(page.getByRole('region', { name: 'join code' })).toBeVisible()
  await look(page)
  await page.keyboard.press('?')
  await expect(page.getByRole('heading', { name: 'Keys' })).toBeVisible()
  await look(page)
})

test('the door and the way to a group', async ({ browser }) => {
  const page = await (await browser.newContext({ viewport: PHONE })).newPage()
  await page.goto('/sign-in')
  await expect(page.getByLabel('Your passphrase')).toBeVisible()
  await look(page)
  await page.goto('/join/MOOR-11')
  await expect(page.getByRole('alert')).toContainText('There is no such join code')
  await look(page)
  await page.goto('/join/TARN-47')
  await page.getByRole('button', { name: /^Jasper/ }).click()
  await look(page)
})

test('the bench: a reading, observations, answers, the sheet', async ({ browser }) => {
  const page = await group(browser, 'Galena', '553943')
  await page.goto('/bench/9')
  await page.getByRole('textbox', { name: /dish with dry crystals/ }).fill('53.1')
  await expect(page.getByText(/A zero at the end counts/)).toBeVisible()
  await look(page, 'bench')
  await page.goto('/bench/3')
  await expect(page.getByRole('radio')).toHaveCount(6)
  await look(page)
  await page.goto('/bench/10')
  await expect(page.getByRole('radiogroup', { name: 'unit' })).toBeVisible()
  await look(page)
  await page.goto('/bench/sheet')
  await expect(page.getByRole('table')).toBeVisible()
  await look(page)
})

test('the bench: something in the oven, a message not yet read', async ({ browser }) => {
  const page = await group(browser, 'Aspen', '903458', 'fern 58')
  await page.goto('/bench/6')
  await expect(page.getByRole('region', { name: 'waiting' })).toContainText('Dry and weigh: since')
  await expect(page.getByRole('alert', { name: 'message' })).toBeVisible()
  await look(page, 'bench-oven')
})

/** The pictures that are kept: the main views in light, the board in the dark as well. */
function pictureOf(name: string, scheme: 'light' | 'dark'): string | undefined {
  if (scheme === 'dark') return name === 'board' ? 'board-dark' : undefined
  return UNKEPT.includes(name) ? undefined : name
}
