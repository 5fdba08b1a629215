// Passes that are not saved yet, kept in the browser: a window may close, or the server be away, in the middle of one.
// Each window keeps its own under a name that it holds a lock on for as long as it is there; what nobody holds was left.
import type { Pass } from './pass'

export interface Left {
  /** Under which names they are kept. */
  names: string[]
  passes: Pass[]
}

let mine = ''
let letGo = (): void => undefined
let gone: Promise<unknown> = Promise.resolve()

const all = (id: number) => `velmot.ride.${id}`

/** Begin to keep passes of a session, and find those that were left by windows that are not there any more. */
export async function startKeeping(id: number): Promise<Left> {
  letGo()
  await gone
  mine = `${all(id)}.${crypto.randomUUID()}`
  const held = new Promise<void>((done) => (letGo = done))
  gone = navigator.locks.request(mine, () => held)
  const there = new Set((await navigator.locks.query()).held?.map((lock) => lock.name))
  const names = Object.keys(localStorage).filter((name) => name === all(id) || name.startsWith(`${all(id)}.`))
  return leftUnder(names.filter((name) => name !== mine && !there.has(name)).sort())
}
/** What is still kept under some names: another window may have taken it up, or thrown it away. */
export function leftUnder(names: string[]): Left {
  const still = names.filter((name) => localStorage.getItem(name) !== null)
  return { names: still, passes: still.flatMap(read) }
}
export function keep(passes: Pass[]): void {
  try {
    if (passes.length) localStorage.setItem(mine, JSON.stringify(passes))
    else localStorage.removeItem(mine)
  } catch {
    // No room: they stay in the page.
  }
}
export function forget(names: string[]): void {
  for (const name of names) localStorage.removeItem(name)
}
/** What is kept under a name; nothing where that is none of Velmot's. */
function read(name: string): Pass[] {
  try {
    const found = JSON.parse(localStorage.getItem(name) ?? '[]') as Pass[]
    const whole = found.every(
      (pass) => Number.isFinite(pass.end) && pass.controls.every((c) => c.hand.at.length === c.hand.seen.length),
    )
    return whole ? found : []
  } catch {
    return []
  }
}
