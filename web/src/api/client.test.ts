import { describe, expect, it } from 'vitest'
import { Refused, unwrapped } from './client'

const reply = (status: number, parts: { data?: unknown; error?: unknown }) =>
  Promise.resolve({ ...parts, response: new Response(null, { status }) })

const refusal = async (asked: Promise<unknown>): Promise<Refused> => {
  const error: unknown = await asked.then(
    () => new Error('nothing was refused'),
    (e: unknown) => e,
  )
  expect(error).toBeInstanceOf(Refused)
  return error as Refused
}

describe('a reply of the server', () => {
  it('is its data when it says yes, also when there is none', async () => {
    await expect(unwrapped(reply(200, { data: { seq: 1 } }))).resolves.toEqual({ seq: 1 })
    await expect(unwrapped(reply(204, {}))).resolves.toBeUndefined()
  })

  it('is refused in the words of the server, with the kind of problem', async () => {
    const error = { type: '/problems/run-closed', detail: 'this run is closed', title: 'Closed' }
    const refused = await refusal(unwrapped(reply(409, { error })))
    expect([refused.status, refused.kind, refused.message]).toEqual([409, 'run-closed', 'this run is closed'])
  })

  it('is refused with its status when whatever stands between says something else', async () => {
    for (const error of ['<html>Bad gateway</html>', undefined, null, {}]) {
      const refused = await refusal(unwrapped(reply(502, { error })))
      expect([refused.kind, refused.message]).toEqual(['unknown', 'the server answered with status 502'])
    }
  })

  it('is no refusal when the network is gone: what was typed is sent again later', async () => {
    const gone = unwrapped(Promise.reject(new TypeError('failed to fetch')))
    await expect(gone).rejects.toBeInstanceOf(TypeError)
  })
})
