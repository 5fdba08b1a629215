// What hands do on controls during passes, as it is sent; and what was seen of it, which strips draw.
import type { Schemas } from '../api/types'
import type { Box } from './drawing'
import { lastAtOrBefore, xOf, yOf, type Scale } from './geometry'

export type Does = Schemas['Hand']['does'][number]

export interface Hand {
  at: number[]
  does: Does[]
  value: (number | null)[]
  /** Where the control was seen to stand, in values of its lane. */
  seen: number[]
}

export const noHand = (): Hand => ({ at: [], does: [], value: [], seen: [] })

/** Note an event; time never runs back in one hand. */
export function note(hand: Hand, at: number, does: Does, value: number | null, seen: number): void {
  hand.at.push(Math.max(at, hand.at[hand.at.length - 1] ?? at))
  hand.does.push(does)
  hand.value.push(value)
  hand.seen.push(seen)
}

/** Note a move. A hand that had stood still did so until `since`: what follows is no slow slope. */
export function noteMove(hand: Hand, at: number, since: number | null, value: number, seen: number): void {
  const last = hand.at.length - 1
  if (since !== null && since > hand.at[last]!) note(hand, since, 'move', lastValue(hand) ?? hand.seen[last]!, hand.seen[last]!)
  note(hand, at, 'move', value, seen)
}

/** Forget all but the first events of a hand; of none, the hand. */
export function forgetSince(hands: Map<string, Hand> | undefined, id: string, kept: number): void {
  const hand = hands?.get(id)
  if (!hand) return
  if (!kept) hands!.delete(id)
  for (const list of [hand.at, hand.does, hand.value, hand.seen]) list.length = Math.min(kept, list.length)
}

/** A hand whose last events, of a frame that time ended in, are no later than that. */
export function until(hand: Hand, end: number): Hand {
  return { ...hand, at: hand.at.map((at) => Math.min(at, end)) }
}

export function lastValue(hand: Hand): number | null {
  return hand.value.findLast((v) => v !== null) ?? null
}

/** What a hand was seen to do in a box, as lines of places: one for each time that it was on the control. */
export function linesOf(hand: Hand, box: Box, scale: Scale): { x: number; y: number }[][] {
  const { view, width } = box
  const first = Math.max(
    lastAtOrBefore(hand.at, (x) => x, view.start),
    0,
  )
  const lines: { x: number; y: number }[][] = []
  for (let i = first; i < hand.at.length && hand.at[Math.max(i - 1, 0)]! <= view.end; i++) {
    const place = { x: xOf(hand.at[i]!, view, width), y: yOf(scale, hand.seen[i]!) }
    if (hand.does[i] === 'touch' || !lines.length) lines.push([])
    const line = lines[lines.length - 1]!
    const before = line[line.length - 1]
    if (before && scale.parameter.kind !== 'continuous') line.push({ x: place.x, y: before.y })
    line.push(place)
  }
  return lines
}
