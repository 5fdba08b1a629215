// Drawing: a freehand stroke, or a straight line, becomes the lane under it.
import { follow } from '../../dragging'
import { valueText } from '../geometry'
import { DRAG, type Hand } from './hand'

export function drawStroke(hand: Hand, event: PointerEvent): void {
  const { shown, stroke } = hand
  const { way, tolerance } = hand.worksheet.drawing
  const parameter = shown.parameter.value
  const from = hand.at(event)
  const home = shown.homeAt(from.beat)
  const line = way === 'line'
  const spots = [{ at: line ? hand.snap(from.beat, event.altKey) : from.beat, value: hand.valueAt(from.y) }]
  stroke.value = [{ x: from.x, y: from.y }]
  follow(
    event,
    {
      from: DRAG,
      move: (next) => {
        for (const part of line ? [next] : (next.getCoalescedEvents?.() ?? [next])) {
          const at = hand.at(part)
          const spot = { at: line ? hand.snap(at.beat, next.altKey) : at.beat, value: hand.valueAt(at.y) }
          if (line) spots.splice(1, 1, spot)
          else spots.push(spot)
          stroke.value = line ? [stroke.value[0]!, { x: at.x, y: at.y }] : [...stroke.value, { x: at.x, y: at.y }]
          hand.say(at.x, at.y, valueText(parameter, spot.value))
        }
        shown.redraw()
        if (Math.abs(spots[0]!.at - spots[spots.length - 1]!.at) < 1e-6) return
        const within = line ? 0 : Math.max(Number(tolerance) || 0, 0)
        hand.preview.gesture = { verb: 'draw', parameter: parameter.id, stroke: [...spots], tolerance: within, home }
      },
      drop: (dragged) => {
        hand.drop()
        stroke.value = []
        shown.redraw()
        if (dragged) void hand.finish()
      },
    },
    shown.plot.value!,
  )
}
