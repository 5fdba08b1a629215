// Keys on a strip: they work on its picked points; what they do not use moves the window.
import { useBench } from '../../state/bench'
import { useSelection } from '../../state/selection'
import { useSession } from '../../state/session'
import { pressed, type Actions } from '../../keys'
import { gridStep } from '../geometry'
import { usePick } from '../pick'
import type { Curve } from '../../api/client'
import type { Content } from './content'

const FARTHER = 10
const FINER = 0.1

export function useStripKeys(
  content: Content,
  curveOf: (lane: string) => Curve | undefined,
  add: (beat: number, value: number) => unknown,
) {
  const session = useSession()
  const bench = useBench()
  const selection = useSelection()
  const pick = usePick()
  const { parameter, lanes } = content

  function key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey) return
    const picked = selection.pointRows.filter((p) => lanes.value.some((lane) => lane.id === p.lane))
    const done = (picked.length && (nudged(event, picked) || pressed(event, onPoints(picked)))) || pressed(event, always)
    if (done) event.stopPropagation()
  }

  type Picked = typeof selection.pointRows
  function nudged(event: KeyboardEvent, picked: Picked): boolean {
    const far = event.shiftKey ? FARTHER : event.altKey ? FINER : 1
    const beat = bench.grid === 'off' ? 0.25 : bench.grid === 'bar' ? 4 : gridStep(bench.grid)
    const { step } = parameter.value.axis
    const way = { ArrowLeft: [-beat, 0], ArrowRight: [beat, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[event.key]
    if (!way) return false
    event.preventDefault()
    void session.apply({ verb: 'move points', picked, by: way[0]! * far, rise: way[1]! * far })
    return true
  }
  function onPoints(picked: Picked): Actions {
    return {
      'remove points': () => session.apply({ verb: 'remove points', picked }),
      hold: () => session.apply({ verb: 'shape segments', picked, bend: null }),
      straighten: () => session.apply({ verb: 'shape segments', picked, bend: 0 }),
    }
  }
  const always: Actions = {
    'next point': () => walk('next'),
    'previous point': () => walk('previous'),
    'add point': () => add(bench.cursor, valueHere()),
  }

  async function walk(way: 'next' | 'previous'): Promise<void> {
    const lane = content.laneAt(bench.cursor)
    if (lane && !lanes.value.some((x) => selection.points[x.id]?.length)) selection.lanes = [lane.id]
    await pick(way)
  }
  /** The nearest drawn point's value, for a point added by key; it is typed exactly afterwards. */
  function valueHere(): number {
    const curve = curveOf(content.laneAt(bench.cursor)?.id ?? '')
    const i = curve?.beats.findLastIndex((beat) => beat <= bench.cursor) ?? -1
    return curve?.values[Math.max(i, 0)] ?? parameter.value.value
  }

  return key
}
