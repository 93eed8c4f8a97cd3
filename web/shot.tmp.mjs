import { chromium } from '@playwright/test'
const base = process.env.BASE ?? 'http://127.0.0.1:8321'
const args = ['--no-sandbox','--disable-dev-shm-usage','--disable-gpu','--disable-background-networking','--host-resolver-rules=MAP bench.test 127.0.0.1']
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args })
const what = process.argv.slice(2)
const out = '/tmp/shots/'
async function desk() {
  const c = await b.newContext({ viewport: { width: 1280, height: 800 }, colorScheme: process.env.DARK ? 'dark' : 'light' })
  const p = await c.newPage()
  p.on('console', m => { if (m.type()==='error') console.log('console:', m.text()) })
  await p.goto(base + '/sign-in')
  await p.getByLabel('Your passphrase').fill('slate under warm rain')
  await p.getByRole('button', { name: 'Open the desk' }).click()
  await p.waitForURL('**/shelf')
  return p
}
let p
for (const w of what) {
  const [kind, path, name] = w.split('|')
  if (kind === 'desk') {
    p ??= await desk()
    await p.goto(base + path); await p.waitForTimeout(700)
    await p.screenshot({ path: out + name + '.png' })
  }
}
await b.close()
