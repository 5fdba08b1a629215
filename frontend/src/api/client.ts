// The one way to the server: typed calls, the CSRF token, and every failure as a Problem.
import createClient from 'openapi-fetch'
import { isolated } from '../lib/words'
import type { paths } from './schema'
import type { Problem } from './types'

export type * from './types'

/** A refusal by the server, or its silence; `problem` says what, where, and what would be right. */
export class ServerProblem extends Error {
  constructor(
    readonly problem: Problem,
    readonly status: number,
  ) {
    super(problem.message)
  }

  get gone(): boolean {
    return this.status === 0
  }
}

export function csrfToken(): string {
  return /(?:^|; )velmot_csrf=([^;]*)/.exec(document.cookie)?.[1] ?? ''
}

const client = createClient<paths>({ baseUrl: '' })
client.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRFToken', csrfToken())
    return request
  },
})
export const api = client

const SILENT: Problem = {
  code: 'gone',
  message: 'Velmot’s server does not answer',
  place: '',
  accepted: '',
  args: {},
  head: null,
}

/** The data of a call, or a ServerProblem thrown. */
export async function asked<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let result
  try {
    result = await call
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error
    throw new ServerProblem(SILENT, 0)
  }
  if (!result.response.ok) {
    const said = (result.error ?? {}) as Partial<Problem>
    const problem = { ...SILENT, code: 'request', message: `the server answered ${result.response.status}`, ...said }
    throw new ServerProblem(problem, result.response.status)
  }
  return result.data as T
}

const SOON = 800 // ms until a call without an answer is made again
/** As `asked`, and once more where no answer came: for what may come twice, or is known by a name of its own. */
export async function surely<T>(call: () => Parameters<typeof asked<T>>[0]): Promise<T> {
  try {
    return await asked(call())
  } catch (error) {
    if (!(error instanceof ServerProblem && error.gone)) throw error
    await new Promise((done) => window.setTimeout(done, SOON))
    return asked(call())
  }
}

/** Why a call was refused; what is no refusal goes on as the fault it is. */
export function refusal(error: unknown): Problem {
  if (!(error instanceof ServerProblem)) throw error
  return error.problem
}

/** A problem as one sentence: what was wrong, and what would be right where no remedy is offered. */
export function sentence(problem: Problem): string {
  const said = problem.message.charAt(0).toUpperCase() + problem.message.slice(1)
  const wanted = problem.accepted && !problem.remedy && !said.includes(problem.accepted)
  return isolated(wanted ? `${said}. Expected: ${problem.accepted}` : said)
}
