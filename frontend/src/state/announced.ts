// What the bench says as it changes, for who does not see it: the picked points, the cursor, and where the window stands.
import { watch } from 'vue'
import type { Curve } from '../api/client'
import { useBench } from './bench'
import { useSaying } from './saying'
import { useSelection } from './selection'
import { useSession } from './session'
import { counted, figure } from '../lib/words'
import { valueText } from '../lib/said'

export function useAnnounced(curves: () => Map<string, Curve>): void {
  const session = useSession()
  const bench = useBench()
  const selection = useSelection()
  const saying = useSaying()

  /** “Point 5 of 25, bar 9.4.00, −10.0 dB, Bell buoy Level”; of several their number. */
  function picked(): string {
    const rows = selection.pointRows
    if (!rows.length) return ''
    if (selection.pointCount > 1) return `${counted(selection.pointCount, 'point')} picked on ${counted(rows.length, 'lane')}`
    const { lane: id, points } = rows[0]!
    const [lane, curve] = [session.lanes.get(id), curves().get(id)]
    const i = points[0]! - (curve?.first ?? 0)
    const name = session.laneName(id)
    if (!lane || !curve || curve.values[i] === undefined) return `Point ${figure(points[0]! + 1)} of ${name}`
    const value = valueText(session.parameters.get(lane.parameter)!.parameter, curve.values[i])
    const where = session.position(curve.beats[i]!)
    return `Point ${figure(points[0]! + 1)} of ${figure(lane.points)}, bar ${where}, ${value}, ${name}`
  }
  watch(picked, (now) => now && saying.say(now))
  watch(
    () => bench.view,
    ({ start, end }) => {
      if (bench.playhead === null) saying.say(`Bars ${session.position(start)} to ${session.position(end)} on view`)
    },
  )
  watch(
    () => selection.range,
    (now) => now && saying.say(`Range from ${session.position(now.start)} to ${session.position(now.end)}`),
  )
  watch(
    () => bench.cursor,
    (now) => saying.say(`Cursor at ${session.position(now)}`),
  )
}
