// A scripted hand: plays a ride on the desk as if a person did, event by event as time comes to it.
import type { Schemas } from '../../api/client'
import { useRiding } from './riding'
import { useTransport } from './transport'

export type Ride = Schemas['RideOut']

interface Coming {
  at: number
  parameter: string
  does: 'touch' | 'move' | 'release'
  value: number | null
}

/** Put a ride's controls on the desk and its hands on them; it plays with time, from the start of every round. */
export function playScript(ride: Ride): { end: () => void } {
  const riding = useRiding()
  const transport = useTransport()
  riding.put(ride.hands.map((hand) => hand.parameter))
  for (const hand of ride.hands) {
    const { mode } = riding.settingOf(hand.parameter)
    riding.set(hand.parameter, { mode: hand.mode ? (hand.mode as typeof mode) : mode, trim: hand.trim })
  }
  const all = ride.hands.flatMap(({ parameter, at, does, value }) =>
    at.map<Coming>((beat, i) => ({ at: beat, parameter, does: does[i]!, value: value[i]! })),
  )
  all.sort((one, other) => one.at - other.at)
  let next = all.length // until time starts, or the next round: what is gone by is not made up for
  let zero = 0

  function until(beat: number): void {
    for (; next < all.length && zero + all[next]!.at <= beat; next++) {
      const { at, parameter, does, value } = all[next]!
      if (does === 'touch') riding.grab(parameter, value ?? undefined, zero + at)
      else if (value !== null) riding.move(parameter, value, zero + at, true)
      if (does === 'release') riding.letGo(parameter, zero + at)
    }
  }
  function begin(beat: number): void {
    next = 0
    zero = beat
    until(beat)
  }
  /** Hands that are still on a control let go. */
  function away(): void {
    for (const { parameter } of ride.hands) while (riding.held(parameter)) riding.letGo(parameter)
    next = all.length
  }
  const leave = transport.join({
    start: begin,
    frame: until,
    end: (beat) => {
      until(beat)
      away()
    },
  })
  return {
    end: () => {
      away()
      leave()
    },
  }
}
