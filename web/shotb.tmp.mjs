import { chromium } from '@playwright/test'
const base = 'http://bench.test:8321'
const args = ['--no-sandbox','--disable-dev-shm-usage','--disable-gpu','--disable-background-networking','--host-resolver-rules=MAP bench.test 127.0.0.1']
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args })
const c = await b.newContext({ viewport: { width: 390, height: 844 }, colorScheme: process.env.DARK ? 'dark' : 'light', hasTouch: true })
const p = await c.newPage()
p.on('console', m => { if (m.type()==='error') console.log('console:', m.text()) })
p.on('pageerror', e => console.log('pageerror', e.message))
const shot = n => p.screenshot({ path: `/tmp/shots/${n}.png` })
await p.goto(base + '/join/TARN-47'); await p.waitForTimeout(500); await shot('b-join')
await p.getByRole('button', { name: /Galena/ }).click()
await p.getByLabel(/PIN/).fill('5539')
await p.getByRole('button', { name: 'We are Galena' }).click()
await p.waitForURL('**/bench/*'); await p.waitForTimeout(600); await shot('b-first')
for (const s of (process.argv[2] ?? '9').split(',')) {
  await p.goto(base + '/bench/' + s); await p.waitForTimeout(700)
  if (s === '9') { await p.keyboard.type('53.1'); await p.waitForTimeout(200) }
  await shot('b-' + s)
}
await b.close()
