import createClient from 'openapi-fetch'
import type { paths } from './generated/schema'

/** The one client. The header says that the request comes from our own pages; another site's form cannot send it. */
export const client = createClient<paths>({
  baseUrl: '/',
  headers: { 'x-keen-beaker': '1' },
  credentials: 'same-origin',
})

/** The server has answered, and said no. */
export class Refused extends Error {
  readonly status: number
  readonly kind: string

  constructor(status: number, kind: string, detail: string) {
    super(detail)
    this.status = status
    this.kind = kind
  }
}

/** The data of a reply; a refusal in its own words otherwise. A network that is gone throws as fetch does. */
export async function unwrapped<T>(
  reply: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await reply
  if (response.ok) return data as T
  const problem = (error ?? {}) as { type?: string; detail?: string }
  const kind = problem.type?.replace('/problems/', '') ?? 'unknown'
  throw new Refused(
    response.status,
    kind,
    problem.detail ?? `the server answered with status ${response.status}`,
  )
}
