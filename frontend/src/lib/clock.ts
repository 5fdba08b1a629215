// Between beats and seconds, by the server's clock table: straight between its marks, and on after the last at its pace.
import type { SessionOut } from '../api/types'
import { lastAtOrBefore } from './geometry'

type Clock = SessionOut['clock']
type Side = 'beat' | 'seconds'

function between(clock: Clock, from: Side, to: Side, at: number): number {
  if (clock.length < 2) return at
  const i = Math.min(
    lastAtOrBefore(clock, (mark) => mark[from], at),
    clock.length - 2,
  )
  const [one, other] = [clock[i]!, clock[i + 1]!]
  return one[to] + ((at - one[from]) / (other[from] - one[from])) * (other[to] - one[to])
}

export const secondsAt = (clock: Clock, beat: number): number => between(clock, 'beat', 'seconds', beat)
export const beatAfter = (clock: Clock, seconds: number): number => between(clock, 'seconds', 'beat', seconds)
