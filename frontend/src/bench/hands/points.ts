// Taking hold of a point: a click picks it, with Shift or Ctrl one more; a drag moves the picked ones.
import { toAxis, yOf } from '../../lib/geometry'
import { distanceText, valueText } from '../../lib/said'
import { adds, type Hand, type Spot } from './hand'

export function holdPoint(hand: Hand, event: PointerEvent, spot: Spot): void {
  const { selection, shown } = hand
  const adding = adds(event)
  const was = isPicked(hand, spot)
  if (!was) {
    if (adding) toggle(hand, spot)
    else selection.points = { [spot.lane]: [spot.index] }
  }
  hand.worksheet.verb = 'points'
  selection.choose(spot.lane)
  const from = hand.at(event)
  const picked = selection.pointRows
  const parameter = shown.parameter.value
  const pressed = yOf(shown.scale.value, spot.value)
  hand.take(event, {
    move: (next) => {
      const at = hand.at(next)
      const now = hand.spotNow(spot)
      const sideways = Math.abs(at.x - from.x) >= Math.abs(at.y - from.y)
      const locked = next.shiftKey
      const beat = locked && !sideways ? now.beat : hand.snap(now.beat + at.beat - from.beat, next.altKey)
      const value = locked && sideways ? now.value : hand.valueAt(at.y - from.y + pressed)
      const rise = toAxis(parameter, value) - toAxis(parameter, now.value)
      hand.say(at.x, at.y, `${valueText(parameter, value)} (${rise < 0 ? '−' : '+'}${distanceText(parameter, Math.abs(rise))})`)
      return { verb: 'move points', picked, by: beat - now.beat, rise }
    },
    click: () => {
      if (was && adding) toggle(hand, spot)
      else if (was) selection.points = { [spot.lane]: [spot.index] }
    },
  })
}

function isPicked({ selection }: Hand, spot: Spot): boolean {
  return selection.points[spot.lane]?.includes(spot.index) ?? false
}
function toggle(hand: Hand, spot: Spot): void {
  const had = hand.selection.points[spot.lane] ?? []
  const next = isPicked(hand, spot) ? had.filter((i) => i !== spot.index) : [...had, spot.index].sort((a, b) => a - b)
  hand.selection.points = { ...hand.selection.points, [spot.lane]: next }
}
