// A drag over the chart: the range. With Ctrl the strip's lane joins those that are chosen; a click sets the cursor.
import { follow } from '../../lib/dragging'
import { toggled } from '../../state/selection'
import { DRAG, type Hand } from './hand'

export function dragRange(hand: Hand, event: PointerEvent): void {
  const { selection, bench, shown } = hand
  const from = hand.at(event)
  const lane = shown.laneAt(from.beat)
  const joining = event.ctrlKey || event.metaKey
  let begun = false
  const before = { range: selection.range, lanes: selection.lanes }
  follow(
    event,
    {
      from: DRAG,
      move: (next) => {
        if (!begun && lane) selection.choose(lane.id, joining)
        begun = true
        const [a, b] = [hand.snap(from.beat, next.altKey), hand.snap(hand.at(next).beat, next.altKey)]
        if (a !== b) selection.range = { start: Math.min(a, b), end: Math.max(a, b) }
      },
      giveUp: (dragged) => {
        if (dragged) Object.assign(selection, before)
      },
      drop: (dragged) => {
        if (dragged) return
        if (!joining) {
          bench.cursor = hand.snapClick(from.beat, event.altKey)
          selection.points = {}
        }
        if (lane) selection.lanes = joining ? toggled(selection.lanes, lane.id) : [lane.id]
      },
    },
    shown.plot.value!,
  )
}
