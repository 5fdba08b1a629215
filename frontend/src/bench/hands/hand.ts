// What every gesture on a strip works with: where things are under the pointer, and what is said while it moves.
import { ref, type ComputedRef, type Ref } from 'vue'
import type { Curve, Finding, LaneOut, ParameterOut, PlacementOut, RegionOut, Schemas } from '../../api/client'
import { useBench } from '../../state/bench'
import { useHolding, type Hold } from '../../state/holding'
import { usePreview } from '../../state/preview'
import { useSelection } from '../../state/selection'
import { useSession } from '../../state/session'
import { useWorksheet } from '../../state/worksheet'
import { beatAt, bend as bendAt, fromAxis, snapped, toAxis, xOf, yOf, yOfAxis, type Scale } from '../../lib/geometry'

export const NEAR = 8 // pixels from a point that are still on it
export const DRAG = 4 // pixels before a press becomes a drag

/** A point under the pointer. */
export interface Spot {
  lane: string
  index: number
  beat: number
  value: number
}

/** The middle of a segment that can bend; `up` says whether it rises. */
export interface Middle extends Spot {
  bend: number
  up: boolean
}

export interface Box {
  left: number
  top: number
  right: number
  bottom: number
}

/** What a strip shows to hands. */
export interface Shown {
  plot: Ref<HTMLElement | null>
  scale: ComputedRef<Scale>
  parameter: ComputedRef<ParameterOut>
  lanes: ComputedRef<LaneOut[]>
  curveOf: (lane: string) => Curve | undefined
  /** The lane that is heard at a beat, else the one the strip is about. */
  laneAt: (beat: number) => LaneOut | undefined
  /** Where what is drawn at a beat belongs. */
  homeAt: (beat: number) => string
  /** The placement whose rule lies under the pointer, and which end of it if it is one. */
  ruleAt: (x: number, y: number) => { place: PlacementOut; end: 'start' | 'end' | null } | undefined
  /** Where the rails of this strip's lanes stand, while they are reshaped. */
  rails: ComputedRef<Schemas['RailedOut'][]>
  footAt: (x: number, y: number) => { region?: RegionOut; finding?: Finding } | undefined
  redraw: () => void
}

export type Hand = ReturnType<typeof useHand>

export function useHand(shown: Shown) {
  const session = useSession()
  const bench = useBench()
  const selection = useSelection()
  const worksheet = useWorksheet()
  const preview = usePreview()
  const hold = useHolding()
  const said = ref<{ x: number; y: number; text: string } | null>(null)
  const box = ref<Box | null>(null)
  const stroke = ref<{ x: number; y: number }[]>([])

  /** What a hand measures by from its press to its end, whatever comes in between: where the strip lay, and its scale. */
  let measured: { edge: DOMRect; scale: Scale; session: unknown } | null = null
  const scaleNow = () => measured?.scale ?? shown.scale.value
  /** Where the pointer is, on the plot and in time. */
  function at(event: MouseEvent): { x: number; y: number; beat: number } {
    const edge = measured?.edge ?? shown.plot.value!.getBoundingClientRect()
    const x = event.clientX - edge.left
    return { x, y: event.clientY - edge.top, beat: beatAt(x, bench.view, bench.plotWidth) }
  }
  /** What the last snapped beat was snapped to, if that is a magnet: it is named at the pointer. */
  let caught = ''
  /** A beat on the grid, or on a nearer magnet; `free` lets it be. */
  function snap(beat: number, free: boolean): number {
    const data = session.data!
    caught = ''
    if (free) return snapped(beat, 'off', data.bars, data.length)
    const found = magnets()
    const at = snapped(beat, bench.grid, data.bars, data.length, found)
    if (at !== snapped(beat, bench.grid, data.bars, data.length)) caught = nameOf(at)
    return at
  }
  /** Where a click puts the cursor, and a double click a point: the cursor that was is no magnet then. */
  function snapClick(beat: number, free: boolean): number {
    const data = session.data!
    return snapped(beat, free ? 'off' : bench.grid, data.bars, data.length)
  }
  function nameOf(at: number): string {
    if (at === bench.cursor) return 'the cursor'
    const marker = session.data?.markers.find((m) => m.at === at)
    if (marker) return marker.called
    return shown.lanes.value.some((lane) => at === lane.start || at === lane.end) ? 'an edge' : 'a point'
  }
  /** What a drag also snaps to: points, region edges, markers, the cursor; within a few pixels. */
  function magnets(): { beats: number[]; within: number } {
    const within = (5 / bench.plotWidth) * (bench.view.end - bench.view.start)
    const beats = [bench.cursor, ...(session.data?.markers ?? []).map((m) => m.at)]
    for (const lane of shown.lanes.value) {
      beats.push(lane.start, lane.end)
      const points = shown.curveOf(lane.id)?.beats ?? []
      if (points.length < 500) beats.push(...points)
    }
    return { beats, within }
  }
  function valueAt(y: number): number {
    const { top, bottom, low, high } = scaleNow()
    const coordinate = low + ((bottom - y) / (bottom - top)) * (high - low)
    const parameter = shown.parameter.value
    return Math.min(Math.max(fromAxis(parameter, coordinate), parameter.low), parameter.high)
  }

  /** A lane as it is drawn: with what a hand has moved and is not saved yet. */
  function drawnOf(lane: string): Curve | undefined {
    const moving = preview.gesture?.verb === 'move points'
    const fresh = moving ? preview.touched.get(shown.parameter.value.id)?.find((t) => t.lane === lane)?.after : null
    return fresh ?? shown.curveOf(lane)
  }
  function spots(of: (lane: string) => Curve | undefined = drawnOf): Spot[] {
    return shown.lanes.value.flatMap((lane) => {
      const curve = of(lane.id)
      return (curve?.values ?? []).map((value, i) => ({ lane: lane.id, index: curve!.first + i, beat: curve!.beats[i]!, value }))
    })
  }
  /** A held point as it is now: as it was taken, until the session changes; then what is on its beat, if that is one point only. */
  function spotNow(held: Spot): Spot {
    if (session.data === measured?.session) return held
    const same = spots(shown.curveOf).filter((s) => s.lane === held.lane && s.beat === held.beat)
    return same.length === 1 ? same[0]! : held
  }
  function spotAt(x: number, y: number): Spot | undefined {
    let best: Spot | undefined
    let least = NEAR
    for (const spot of spots()) {
      const dx = xOf(spot.beat, bench.view, bench.plotWidth) - x
      if (Math.abs(dx) > NEAR) continue
      const away = Math.hypot(dx, yOf(shown.scale.value, spot.value) - y)
      if (away < least) [best, least] = [spot, away]
    }
    return best
  }
  /** The segment whose middle is under the pointer, if it can bend. */
  function middleAt(x: number, y: number): Middle | undefined {
    const parameter = shown.parameter.value
    if (parameter.kind !== 'continuous') return undefined
    for (const lane of shown.lanes.value) {
      const curve = shown.curveOf(lane.id)
      for (let i = 0; curve && i + 1 < curve.values.length; i++) {
        const [x0, x1] = [i, i + 1].map((n) => xOf(curve.beats[n]!, bench.view, bench.plotWidth)) as [number, number]
        const shape = curve.shapes[i]
        if (x1 - x0 < 24 || shape == null || Math.abs((x0 + x1) / 2 - x) > NEAR) continue
        const [a0, a1] = [i, i + 1].map((n) => toAxis(parameter, curve.values[n]!)) as [number, number]
        if (Math.abs(yOfAxis(shown.scale.value, a0 + (a1 - a0) * bendAt(0.5, shape)) - y) > NEAR || a0 === a1) continue
        const spot = { lane: lane.id, index: curve.first + i, beat: curve.beats[i]!, value: curve.values[i]! }
        return { ...spot, bend: shape, up: a1 > a0 }
      }
    }
    return undefined
  }

  const railed = () => shown.rails.value
  const beatAtX = (x: number) => beatAt(x, bench.view, bench.plotWidth)

  function say(x: number, y: number, text: string): void {
    said.value = { x, y, text: caught ? `${text} · on ${caught}` : text }
  }
  /** Take hold: what is asked for at every move is previewed, and applied at the end as one entry of the log. */
  function take(event: PointerEvent, how: Hold): void {
    measured = { edge: shown.plot.value!.getBoundingClientRect(), scale: shown.scale.value, session: session.data }
    const end = () => {
      said.value = null
      measured = null
      how.end?.()
    }
    hold(event, { from: DRAG, ...how, end }, shown.plot.value!)
  }

  return {
    ...{ shown, session, bench, selection, worksheet, preview },
    ...{ said, box, stroke, at, snap, valueAt, snapClick, beatAtX, railed, spots, spotNow, spotAt, middleAt, say, take },
  }
}

/** Whether a press adds to what is chosen already. */
export function adds(event: MouseEvent): boolean {
  return event.shiftKey || event.ctrlKey || event.metaKey
}
