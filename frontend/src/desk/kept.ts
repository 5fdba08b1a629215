// Passes that are not saved yet, kept in the browser: a window may close, or the server be away, in the middle of one.
import type { Pass } from './riding'

const key = (id: number) => `velmot.ride.${id}`

export function keep(id: number, passes: Pass[]): void {
  try {
    localStorage.setItem(key(id), JSON.stringify(passes))
  } catch {
    // No room: they stay in the page.
  }
}
export function forget(id: number): void {
  localStorage.removeItem(key(id))
}
/** What was kept of a session; nothing where that is none of Velmot's. */
export function kept(id: number): Pass[] | null {
  try {
    const found = JSON.parse(localStorage.getItem(key(id)) ?? '[]') as Pass[]
    const whole = found.every(
      (pass) => Number.isFinite(pass.end) && pass.controls.every((c) => c.hand.at.length === c.hand.seen.length),
    )
    return whole && found.length ? found : null
  } catch {
    return null
  }
}
