// Taking hold of a rail: its middle moves all of it, near an end that end alone; the curve between them moves both.
// Every chosen lane of the same unit goes along. Alt moves a tenth as far.
import type { Schemas } from '../../api/client'
import { useReshaping, type Move, type RailEnd } from '../../state/reshaping'
import { bend as bendAt, fromAxis, toAxis, xOf, yOf, yOfAxis } from '../../lib/geometry'
import { valueText } from '../../lib/said'
import { type Hand } from './hand'

type Railed = Schemas['RailedOut']

/** What of a lane's rails is under the pointer: some ends of one rail, or the curve between them. */
export interface Grip {
  rails: Railed
  ends: RailEnd[]
  curve: boolean
}

const NEAR = 3 // pixels: a range is drawn between rails, however near
const MOST_END = 48 // pixels at either end of a rail that take hold of that end alone
const FINE = 0.1

export function gripAt(hand: Hand, x: number, y: number): Grip | undefined {
  if (hand.worksheet.verb !== 'reshape') return undefined
  const all = hand.railed()
  for (const rails of all) {
    const span = spanOf(hand, rails)
    if (x < span.start || x > span.end) continue
    const end = endAt(x, span)
    for (const side of ['high', 'low'] as const) {
      const [from, to] = [rails.after[`${side}_start`], rails.after[`${side}_end`]].map((v) => yOf(hand.shown.scale.value, v))
      const part = Math.min(Math.max((x - span.start) / (span.end - span.start), 0), 1)
      if (Math.abs(from! + (to! - from!) * part - y) > NEAR) continue
      const sides = rails.flat ? (['high', 'low'] as const) : [side]
      const ends = sides.flatMap((s) => (end ? [`${s}_${end}` as const] : [`${s}_start` as const, `${s}_end` as const]))
      return { rails, ends, curve: false }
    }
  }
  const on = all.find((rails) => isOnCurve(hand, rails, x, y))
  return on && { rails: on, ends: [], curve: true }
}

function spanOf(hand: Hand, rails: Railed): { start: number; end: number } {
  const [start, end] = [rails.start, rails.end].map((beat) => xOf(beat, hand.bench.view, hand.bench.plotWidth))
  return { start: start!, end: end! }
}
function endAt(x: number, span: { start: number; end: number }): 'start' | 'end' | null {
  const reach = Math.min((span.end - span.start) / 4, MOST_END)
  return x < span.start + reach ? 'start' : x > span.end - reach ? 'end' : null
}

/** Whether the lane's curve is under the pointer. */
function isOnCurve(hand: Hand, rails: Railed, x: number, y: number): boolean {
  const beat = hand.beatAtX(x)
  const curve = hand.shown.curveOf(rails.lane)
  if (!curve || beat < rails.start || beat >= rails.end) return false
  const scale = hand.shown.scale.value
  if (!curve.beats.length) {
    const column = Math.floor(((beat - curve.start) / (curve.end - curve.start)) * curve.lows.length)
    const [low, high] = [curve.lows[column], curve.highs[column]]
    return low != null && high != null && y < yOf(scale, low) + NEAR && y > yOf(scale, high) - NEAR
  }
  const i = Math.max(
    curve.beats.findLastIndex((b) => b <= beat),
    0,
  )
  const [a, b] = [i, Math.min(i + 1, curve.beats.length - 1)]
  const [from, to] = [a, b].map((n) => toAxis(scale.parameter, curve.values[n]!)) as [number, number]
  const shape = curve.shapes[a]
  const long = curve.beats[b]! - curve.beats[a]!
  const part = shape == null || long <= 0 ? 0 : bendAt(Math.min((beat - curve.beats[a]!) / long, 1), shape)
  return Math.abs(yOfAxis(scale, from + (to - from) * part) - y) <= NEAR
}

export function holdRails(hand: Hand, event: PointerEvent, grip: Grip): void {
  const reshaping = useReshaping()
  const parameter = hand.shown.parameter.value
  const { unit } = parameter.axis
  const { top, bottom, low, high } = hand.shown.scale.value // as it was: what is previewed may widen it
  const step = 10 ** Math.floor(Math.log10((toAxis(parameter, parameter.high) - toAxis(parameter, parameter.low)) / 500))
  const from = hand.at(event)
  let away = 0
  let last = from.y
  const said = grip.ends[0] ?? 'high_start'
  const base = toAxis(parameter, grip.rails.after[said])
  hand.take(event, {
    move: (next) => {
      const at = hand.at(next)
      away += (last - at.y) * (next.altKey ? FINE : 1)
      last = at.y
      const grain = next.altKey ? step * FINE : step
      const rise = Math.round(((away / (bottom - top)) * (high - low)) / grain) * grain
      const moves = { ...reshaping.moves, [unit]: moved(reshaping.moveOf(unit), grip, rise, parameter) }
      const value = valueText(parameter, Math.min(Math.max(fromAxis(parameter, base + rise), parameter.low), parameter.high))
      const far = `${rise < 0 ? '−' : '+'}${Math.abs(rise).toFixed(2)} ${unit}`.trim()
      hand.say(at.x, at.y, grip.curve ? far : `${value} (${far})`)
      return reshaping.request(Object.values(moves).filter((m) => reshaping.units.has(m.unit)))
    },
    done: () => (reshaping.moves = {}),
  })
}

/** What a unit's lanes get when what is held goes up by `rise`, on top of what the sheet asks for. */
function moved(move: Move, grip: Grip, rise: number, parameter: Parameters<typeof toAxis>[0]): Move {
  const to = { ...move.to }
  const shift = { ...move.shift }
  const lifted = (end: RailEnd) => fromAxis(parameter, toAxis(parameter, to[end]!) + rise)
  if (grip.curve) {
    for (const end of Object.keys(to) as RailEnd[]) if (to[end] != null) to[end] = lifted(end)
    return { ...move, by: move.by + rise, to }
  }
  for (const end of grip.ends)
    if (to[end] != null) to[end] = lifted(end)
    else shift[end] = (shift[end] ?? 0) + rise
  return { ...move, shift, to }
}
