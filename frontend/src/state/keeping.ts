// What a session's bench looked like, kept on the server for whoever opens it next; its window of bars in this tab too.
import { api, asked, ServerProblem, type Schemas } from '../api/client'

export type Kept = Schemas['Bench']

const SOON = 800 // ms
const SELDOM = 30_000
const viewKey = (id: number) => `velmot.view.${id}`
/** What was sent from this tab and not answered yet: a page that is left and read again may ask before it has arrived. */
const sentKey = (id: number) => `velmot.sent.${id}`
/** Where earlier versions kept it, in the browser alone. */
const formerKey = (id: number) => `velmot.bench.${id}`

function readStored(storage: Storage, key: string): unknown {
  try {
    return JSON.parse(storage.getItem(key) ?? 'null')
  } catch {
    return null
  }
}
function texts(kept: Kept): Map<string, string> {
  return new Map(Object.entries(kept).map(([name, value]) => [name, JSON.stringify(value ?? null)]))
}

const sentOf = (id: number) => (readStored(sessionStorage, sentKey(id)) ?? {}) as Kept

/** What was kept of a session: as the server says it, over the bars that this tab showed last. */
export function readKept(id: number, said: Kept): Kept {
  const nothing = Object.values(said).every((value) => value == null)
  const former = nothing ? (readStored(localStorage, formerKey(id)) as (Kept & { heardOn?: string[] }) | null) : null
  const { heardOn, ...rest } = former ?? {}
  const view = readStored(sessionStorage, viewKey(id)) as Kept['view']
  return { ...said, ...rest, ...(heardOn ? { heard_on: heardOn } : {}), ...sentOf(id), ...(view ? { view } : {}) }
}

/** Sends what has changed since it was last kept, and only that, so that two windows do not undo each other's pins. */
export class Keeper {
  private kept: Map<string, string>
  private latest: Kept = {}
  private wait = SOON

  constructor(
    private readonly id: number,
    now: Kept,
  ) {
    this.kept = localStorage.getItem(formerKey(id)) === null ? texts(now) : new Map()
    for (const name of Object.keys(sentOf(id))) this.kept.delete(name) // sent again with the next change
  }

  keep(now: Kept, leaving = false): void {
    this.latest = now
    const said = texts(now)
    const changed = Object.entries(now).filter(([name]) => said.get(name) !== this.kept.get(name))
    if (!changed.length) return
    this.kept = said
    const body: Kept = Object.fromEntries(changed)
    this.remember(viewKey(this.id), said.get('view') ?? 'null')
    this.remember(sentKey(this.id), JSON.stringify({ ...sentOf(this.id), ...body }))
    const call = { params: { path: { id: this.id } }, body, keepalive: leaving }
    asked(api.PATCH('/api/sessions/{id}/bench', call)).then(
      () => {
        this.wait = SOON
        localStorage.removeItem(formerKey(this.id))
        this.arrived(body)
      },
      (error: unknown) => {
        if (!(error instanceof ServerProblem)) throw error
        for (const [name] of changed) this.kept.delete(name)
        if (error.gone) this.later() // else it goes with the next change
      },
    )
  }

  /** What was not answered is sent again, as it is by then; less and less often. */
  private later(): void {
    window.setTimeout(() => this.keep(this.latest), this.wait)
    this.wait = Math.min(this.wait * 2, SELDOM)
  }

  /** Forget what has been answered, but for what has changed since. */
  private arrived(body: Kept): void {
    const sent = texts(body)
    const left = Object.entries(sentOf(this.id)).filter(([name, value]) => sent.get(name) !== JSON.stringify(value))
    this.remember(sentKey(this.id), JSON.stringify(Object.fromEntries(left)))
  }

  private remember(key: string, text: string): void {
    try {
      sessionStorage.setItem(key, text)
    } catch {
      /* a tab that may keep nothing opens where the server says */
    }
  }
}
