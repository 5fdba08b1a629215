// Keys on a strip: they work on its picked points; what they do not use moves the window.
import { onBeforeUnmount, onMounted } from 'vue'
import { useBench } from '../../state/bench'
import { usePreview, type Held } from '../../state/preview'
import { useSelection } from '../../state/selection'
import { useSession } from '../../state/session'
import { pressed, type Actions } from '../../state/keys'
import { gridStep } from '../../lib/geometry'
import { usePick } from '../../state/pick'
import type { Curve } from '../../api/client'
import type { Content } from '../../state/content'

const FARTHER = 10
const FINER = 0.1
const MODIFIERS = ['Shift', 'Alt']

export function useStripKeys(
  content: Content,
  curveOf: (lane: string) => Curve | undefined,
  add: (beat: number, value: number) => unknown,
) {
  const session = useSession()
  const bench = useBench()
  const selection = useSelection()
  const preview = usePreview()
  const pick = usePick()
  const { parameter, lanes } = content

  function key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey) return
    if (event.key === 'Escape' && nudge) {
      nudge.hold.letGo()
      nudge = null
      event.preventDefault()
      return event.stopPropagation()
    }
    if (event.key !== nudge?.key && !MODIFIERS.includes(event.key)) settle()
    const picked = selection.pointRows.filter((p) => lanes.value.some((lane) => lane.id === p.lane))
    if (!picked.length && toStrip(event)) return event.stopPropagation()
    const done = (picked.length && (nudged(event, picked) || pressed(event, onPoints(picked)))) || pressed(event, always)
    if (done) event.stopPropagation()
  }

  /** Up and down go to the strip above or below. */
  function toStrip(event: KeyboardEvent): boolean {
    const way = { ArrowUp: -1, ArrowDown: 1 }[event.key]
    const next = way && !event.altKey ? bench.strips[bench.strips.indexOf(content.id) + way] : undefined
    if (!next) return false
    event.preventDefault()
    bench.focusing = true
    bench.going = next
    const lane = content.lanes.value.length ? session.lanesOf.get(next)?.[0] : undefined
    if (lane) selection.lanes = [lane.id]
    return true
  }

  type Picked = typeof selection.pointRows
  /** A held key is one step, as long as it was held: it is previewed while it repeats, and applied when it is let go. */
  let nudge: { hold: Held; key: string; picked: Picked; by: number; rise: number } | null = null
  function nudged(event: KeyboardEvent, picked: Picked): boolean {
    const far = event.shiftKey ? FARTHER : event.altKey ? FINER : 1
    const beat = bench.grid === 'off' ? 0.25 : bench.grid === 'bar' ? 4 : gridStep(bench.grid)
    const { usual, fine, coarse } = parameter.value.axis.nudges
    const step = event.shiftKey ? coarse : event.altKey ? fine : usual
    const way = { ArrowLeft: [-beat, 0], ArrowRight: [beat, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[event.key]
    if (!way) return false
    event.preventDefault()
    if (nudge?.key !== event.key) settle()
    nudge ??= { hold: preview.hold(), key: event.key, picked, by: 0, rise: 0 }
    nudge.by += way[0]! * far
    nudge.rise += way[1]!
    nudge.hold.ask({ verb: 'move points', picked: nudge.picked, by: nudge.by, rise: nudge.rise })
    return true
  }
  /** Apply what a held key has come to. */
  function settle(): void {
    void nudge?.hold.apply()
    nudge = null
  }
  function released(event: KeyboardEvent): void {
    if (event.key === nudge?.key) settle()
  }
  onMounted(() => {
    window.addEventListener('keyup', released)
    window.addEventListener('blur', settle)
  })
  onBeforeUnmount(() => {
    settle()
    window.removeEventListener('keyup', released)
    window.removeEventListener('blur', settle)
  })
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
