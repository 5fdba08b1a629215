// What a pointer does on a strip: one gesture a file; here it is told which one a press begins.
// While it drags, the request is previewed; when it lets go, it is applied as one entry of the log.
import { addPoint, doubleClick } from './adding'
import { dragBox } from './boxes'
import { chooseFinding } from './findings'
import { useHand, type Shown } from './hand'
import { holdPlace } from './places'
import { holdPoint } from './points'
import { dragRange } from './ranges'
import { gripAt, holdRails } from './rails'
import { holdRegion } from './regions'
import { bendSegment } from './segments'
import { drawStroke } from './strokes'
import { useSession } from '../../state/session'

export function useHands(shown: Shown) {
  const hand = useHand(shown)
  const session = useSession()

  function press(event: PointerEvent): void {
    if (event.button !== 0 || !shown.plot.value) return
    const at = hand.at(event)
    if (session.readOnly) return dragRange(hand, event)
    const rule = shown.ruleAt(at.x, at.y)
    if (rule) return holdPlace(hand, event, rule.place, rule.end)
    const foot = shown.footAt(at.x, at.y)
    if (foot?.region) return holdRegion(hand, event, foot.region)
    if (foot?.finding) return chooseFinding(hand, foot.finding)
    const grip = gripAt(hand, at.x, at.y)
    if (grip) return holdRails(hand, event, grip)
    if (hand.worksheet.verb === 'draw') return drawStroke(hand, event)
    const spot = hand.spotAt(at.x, at.y)
    if (spot) return holdPoint(hand, event, spot)
    const middle = hand.middleAt(at.x, at.y)
    if (middle) return bendSegment(hand, event, middle)
    if (event.shiftKey) return dragBox(hand, event)
    dragRange(hand, event)
  }

  return {
    press,
    doubleClick: (event: MouseEvent) => session.readOnly || doubleClick(hand, event),
    add: (beat: number, value: number) => session.readOnly || addPoint(hand, beat, value),
    holds: (event: MouseEvent) => {
      const { x, y } = hand.at(event)
      return !!gripAt(hand, x, y)
    },
    beatOf: (event: MouseEvent) => hand.at(event).beat,
    said: hand.said,
    box: hand.box,
    stroke: hand.stroke,
  }
}
