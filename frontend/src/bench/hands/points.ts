// Taking hold of a point: a click picks it, with Shift or Ctrl one more; a drag moves the picked ones.
import { follow } from '../../dragging'
import { toAxis, valueText, yOf } from '../geometry'
import { adds, DRAG, type Hand, type Spot } from './hand'

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
  follow(
    event,
    {
      from: DRAG,
      move: (next) => {
        const at = hand.at(next)
        const sideways = Math.abs(at.x - from.x) >= Math.abs(at.y - from.y)
        const locked = next.shiftKey
        const beat = locked && !sideways ? spot.beat : hand.snap(spot.beat + at.beat - from.beat, next.altKey)
        const value = locked && sideways ? spot.value : hand.valueAt(at.y - from.y + yOf(shown.scale.value, spot.value))
        const rise = toAxis(parameter, value) - toAxis(parameter, spot.value)
        hand.preview.gesture = { verb: 'move points', picked, by: beat - spot.beat, rise }
        const unit = parameter.axis.logarithmic ? ` ${parameter.axis.unit}` : ''
        hand.say(at.x, at.y, `${valueText(parameter, value)} (${rise < 0 ? '−' : '+'}${Math.abs(rise).toFixed(2)}${unit})`)
      },
      drop: (dragged) => {
        hand.drop()
        if (dragged) void hand.finish()
        else if (was && adding) toggle(hand, spot)
        else if (was) selection.points = { [spot.lane]: [spot.index] }
      },
    },
    shown.plot.value!,
  )
}

function isPicked({ selection }: Hand, spot: Spot): boolean {
  return selection.points[spot.lane]?.includes(spot.index) ?? false
}
function toggle(hand: Hand, spot: Spot): void {
  const had = hand.selection.points[spot.lane] ?? []
  const next = isPicked(hand, spot) ? had.filter((i) => i !== spot.index) : [...had, spot.index].sort((a, b) => a - b)
  hand.selection.points = { ...hand.selection.points, [spot.lane]: next }
}
