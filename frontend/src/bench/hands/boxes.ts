// Shift and drag: every point inside the box is picked; with Ctrl they join those that are picked already.
import { follow } from '../../lib/dragging'
import { xOf, yOf } from '../../lib/geometry'
import { DRAG, type Box, type Hand } from './hand'

export function dragBox(hand: Hand, event: PointerEvent): void {
  const from = hand.at(event)
  follow(
    event,
    {
      from: DRAG,
      move: (next) => {
        const at = hand.at(next)
        const [left, right] = [Math.min(from.x, at.x), Math.max(from.x, at.x)]
        const [top, bottom] = [Math.min(from.y, at.y), Math.max(from.y, at.y)]
        hand.box.value = { left, top, right, bottom }
      },
      giveUp: () => (hand.box.value = null),
      drop: (dragged) => {
        const box = hand.box.value
        hand.box.value = null
        if (dragged && box) pickInside(hand, box, event.ctrlKey || event.metaKey)
      },
    },
    hand.shown.plot.value!,
  )
}

function pickInside({ spots, bench, shown, selection, worksheet }: Hand, box: Box, adding: boolean): void {
  const found: Record<string, number[]> = adding ? { ...selection.points } : {}
  for (const spot of spots()) {
    const x = xOf(spot.beat, bench.view, bench.plotWidth)
    const y = yOf(shown.scale.value, spot.value)
    if (x < box.left || x > box.right || y < box.top || y > box.bottom) continue
    found[spot.lane] = [...new Set([...(found[spot.lane] ?? []), spot.index])].sort((a, b) => a - b)
  }
  selection.points = found
  const lanes = Object.keys(found)
  if (lanes.length) selection.lanes = adding ? [...new Set([...selection.lanes, ...lanes])] : lanes
  worksheet.verb = 'points'
}
