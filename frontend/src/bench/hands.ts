// What a pointer does on a strip: picks, drags and bends points, marquees, ranges, and draws.
// While it drags, the wish is previewed; when it lets go, it is applied as one entry of the log.
import { ref, type ComputedRef, type Ref } from 'vue'
import type { AnyRequest, Curve, LaneOut, ParameterOut, RegionOut, Schemas } from '../api/client'
import { useBench } from '../state/bench'
import { usePreview } from '../state/preview'
import { useSession } from '../state/session'
import {
  beatAt,
  bend as bendAt,
  fromAxis,
  positionText,
  snapped,
  toAxis,
  valueText,
  xOf,
  yOf,
  yOfAxis,
  type Scale,
} from './geometry'

const MOVE_REGIONS = {
  verb: 'carry regions',
  targets: [] as string[],
  times: 1,
  until: null,
  every: null,
  automation: 'with',
  under: 'stays',
  missing: 'leave out',
  set_to_read: false,
} as const
const NEAR = 8
const STARTS = 4 // pixels before a press becomes a drag

export interface Spot {
  lane: string
  index: number
  beat: number
  value: number
}

interface Middle extends Spot {
  bend: number
  up: boolean
}

interface Hands {
  plot: Ref<HTMLElement | null>
  scale: ComputedRef<Scale>
  parameter: ComputedRef<ParameterOut>
  lanes: ComputedRef<LaneOut[]>
  curveOf: (lane: string) => Curve | undefined
  laneAt: (beat: number) => LaneOut | undefined
  footAt: (x: number, y: number) => { region?: RegionOut; gap?: Schemas['GapOut'] } | undefined
  redraw: () => void
}

export interface Box {
  left: number
  top: number
  right: number
  bottom: number
}

export function useHands(h: Hands) {
  const session = useSession()
  const bench = useBench()
  const preview = usePreview()
  const said = ref<{ x: number; y: number; text: string } | null>(null)
  const marquee = ref<Box | null>(null)
  const stroke = ref<{ x: number; y: number }[]>([])

  // ── where things are ───────────────────────────────────────────────────────────────────────

  function place(event: MouseEvent): { x: number; y: number; beat: number } {
    const box = h.plot.value!.getBoundingClientRect()
    const x = event.clientX - box.left
    return { x, y: event.clientY - box.top, beat: beatAt(x, bench.view, bench.plotWidth) }
  }
  function snap(beat: number, free: boolean): number {
    const data = session.data!
    return free ? snapped(beat, 'off', data.bars, data.length) : snapped(beat, bench.grid, data.bars, data.length, magnets())
  }
  /** What a drag also snaps to: points, region edges, the cursor; within a few pixels. */
  function magnets(): { beats: number[]; within: number } {
    const within = (5 / bench.plotWidth) * (bench.view.end - bench.view.start)
    const beats = [bench.cursor]
    for (const lane of h.lanes.value) {
      beats.push(lane.start, lane.end)
      const points = h.curveOf(lane.id)?.beats ?? []
      if (points.length < 500) beats.push(...points)
    }
    return { beats, within }
  }
  function valueAt(y: number): number {
    const { scale } = h
    const part = (scale.value.bottom - y) / (scale.value.bottom - scale.value.top)
    const axis = scale.value.low + part * (scale.value.high - scale.value.low)
    const { low, high } = h.parameter.value
    return Math.min(Math.max(fromAxis(h.parameter.value, axis), low), high)
  }

  function spots(): Spot[] {
    return h.lanes.value.flatMap((lane) => {
      const curve = h.curveOf(lane.id)
      return (curve?.values ?? []).map((value, i) => ({ lane: lane.id, index: curve!.first + i, beat: curve!.beats[i]!, value }))
    })
  }
  function spotAt(x: number, y: number): Spot | undefined {
    let best: Spot | undefined
    let least = NEAR
    for (const spot of spots()) {
      const dx = xOf(spot.beat, bench.view, bench.plotWidth) - x
      if (Math.abs(dx) > NEAR) continue
      const away = Math.hypot(dx, yOf(h.scale.value, spot.value) - y)
      if (away < least) [best, least] = [spot, away]
    }
    return best
  }
  /** The segment whose middle is under the pointer, if it can bend. */
  function middleAt(x: number, y: number): Middle | undefined {
    if (h.parameter.value.kind !== 'continuous') return undefined
    for (const lane of h.lanes.value) {
      const curve = h.curveOf(lane.id)
      for (let i = 0; curve && i + 1 < curve.values.length; i++) {
        const [x0, x1] = [curve.beats[i]!, curve.beats[i + 1]!].map((b) => xOf(b, bench.view, bench.plotWidth)) as [
          number,
          number,
        ]
        const shape = curve.shapes[i]
        if (x1 - x0 < 24 || shape == null || Math.abs((x0 + x1) / 2 - x) > NEAR) continue
        const [a0, a1] = [curve.values[i]!, curve.values[i + 1]!].map((v) => toAxis(h.parameter.value, v)) as [number, number]
        if (Math.abs(yOfAxis(h.scale.value, a0 + (a1 - a0) * bendAt(0.5, shape)) - y) > NEAR || a0 === a1) continue
        return { lane: lane.id, index: curve.first + i, beat: curve.beats[i]!, value: curve.values[i]!, bend: shape, up: a1 > a0 }
      }
    }
    return undefined
  }

  // ── following a drag ───────────────────────────────────────────────────────────────────────

  function follow(
    event: PointerEvent,
    move: (next: PointerEvent) => void,
    drop: (dragged: boolean, last: PointerEvent) => void,
  ): void {
    const element = h.plot.value!
    element.setPointerCapture(event.pointerId)
    let dragged = false
    const moved = (next: PointerEvent) => {
      dragged ||= Math.hypot(next.clientX - event.clientX, next.clientY - event.clientY) >= STARTS
      if (dragged) move(next)
    }
    const over = (last: PointerEvent) => {
      element.removeEventListener('pointermove', moved)
      element.removeEventListener('pointerup', over)
      element.removeEventListener('pointercancel', over)
      said.value = null
      drop(dragged, last)
    }
    element.addEventListener('pointermove', moved)
    element.addEventListener('pointerup', over)
    element.addEventListener('pointercancel', over)
  }

  async function done(): Promise<void> {
    const wish = preview.gesture
    if (wish) await session.apply(wish)
    preview.gesture = null
  }

  // ── the gestures ───────────────────────────────────────────────────────────────────────────

  function press(event: PointerEvent): void {
    if (event.button !== 0 || !h.plot.value) return
    const at = place(event)
    const foot = h.footAt(at.x, at.y)
    if (foot?.region) return holdRegion(event, foot.region)
    if (foot?.gap) return chooseGap(foot.gap)
    if (bench.verb === 'draw') return draw(event)
    const spot = spotAt(at.x, at.y)
    if (spot) return holdSpot(event, spot)
    const middle = middleAt(at.x, at.y)
    if (middle) return bendSegment(event, middle)
    if (event.shiftKey) return drawMarquee(event)
    dragRange(event)
  }

  function isPicked(spot: Spot): boolean {
    return bench.picked[spot.lane]?.includes(spot.index) ?? false
  }
  function toggle(spot: Spot): void {
    const had = bench.picked[spot.lane] ?? []
    const next = isPicked(spot) ? had.filter((i) => i !== spot.index) : [...had, spot.index].sort((a, b) => a - b)
    bench.picked = { ...bench.picked, [spot.lane]: next }
  }

  function holdSpot(event: PointerEvent, spot: Spot): void {
    const adding = event.shiftKey || event.ctrlKey || event.metaKey
    const was = isPicked(spot)
    if (!was) {
      if (adding) toggle(spot)
      else bench.picked = { [spot.lane]: [spot.index] }
    }
    bench.verb = 'points'
    if (!bench.chosen.includes(spot.lane)) bench.chosen = [spot.lane]
    const from = place(event)
    const picked = bench.pickedRows
    const move = (next: PointerEvent) => {
      const at = place(next)
      const sideways = Math.abs(at.x - from.x) >= Math.abs(at.y - from.y)
      const locked = next.shiftKey
      const beat = locked && !sideways ? spot.beat : snap(spot.beat + at.beat - from.beat, next.altKey)
      const value = locked && sideways ? spot.value : valueAt(at.y - from.y + yOf(h.scale.value, spot.value))
      const rise = toAxis(h.parameter.value, value) - toAxis(h.parameter.value, spot.value)
      preview.gesture = { verb: 'move points', picked, by: beat - spot.beat, rise }
      const unit = h.parameter.value.axis === 'log' ? ' octaves' : ''
      const delta = `${rise < 0 ? '−' : '+'}${Math.abs(rise).toFixed(2)}${unit}`
      said.value = { x: at.x, y: at.y, text: `${valueText(h.parameter.value, value)} (${delta})` }
    }
    follow(event, move, (dragged) => {
      if (dragged) void done()
      else if (was && adding) toggle(spot)
      else if (was) bench.picked = { [spot.lane]: [spot.index] }
    })
  }

  /** A click on a region's name chooses it, with Shift or Ctrl one more; a drag moves the chosen ones. */
  function holdRegion(event: PointerEvent, region: RegionOut): void {
    const adding = event.shiftKey || event.ctrlKey || event.metaKey
    const was = bench.regions.includes(region.id)
    if (!was) bench.regions = adding ? [...bench.regions, region.id] : [region.id]
    if (bench.verb !== 'embed') bench.verb = 'regions'
    const from = place(event)
    const chosen = bench.regions.flatMap((id) => session.regions.get(id)?.region ?? [])
    const first = Math.min(...chosen.map((r) => r.start))
    const last = Math.max(...chosen.map((r) => r.start + r.length))
    follow(
      event,
      (next) => {
        const by = snap(region.start + place(next).beat - from.beat, next.altKey) - region.start
        const at = Math.min(Math.max(first + by, 0), Math.max(bench.length - (last - first), 0))
        preview.gesture = { ...MOVE_REGIONS, regions: chosen.map((r) => r.id), at, how: next.ctrlKey ? 'copy' : 'move' }
        said.value = {
          x: place(next).x,
          y: place(next).y,
          text: `${next.ctrlKey ? 'copy' : 'move'} to ${positionText(at, session.data!.bars)}`,
        }
      },
      (dragged) => {
        if (dragged) void done()
        else if (was) bench.regions = adding ? bench.regions.filter((id) => id !== region.id) : [region.id]
      },
    )
  }

  function chooseGap(gap: Schemas['GapOut']): void {
    bench.gap = gap
    bench.embedding = 'fill'
    bench.verb = 'embed'
  }

  function bendSegment(event: PointerEvent, middle: Middle): void {
    const from = event.clientY
    follow(
      event,
      (next) => {
        const away = (next.clientY - from) * (middle.up ? 0.05 : -0.05)
        const k = Math.min(Math.max(middle.bend + away, -20), 20)
        const bend = Math.abs(k) < 0.15 ? 0 : Math.round(k * 100) / 100
        preview.gesture = { verb: 'shape segments', picked: [{ lane: middle.lane, points: [middle.index] }], bend }
        said.value = { ...place(next), text: bend ? `bend ${bend}` : 'straight' }
      },
      (dragged) => {
        if (dragged) return void done()
        bench.cursor = place(event).beat
        bench.chosen = [middle.lane]
      },
    )
  }

  function drawMarquee(event: PointerEvent): void {
    const from = place(event)
    follow(
      event,
      (next) => {
        const at = place(next)
        marquee.value = {
          left: Math.min(from.x, at.x),
          top: Math.min(from.y, at.y),
          right: Math.max(from.x, at.x),
          bottom: Math.max(from.y, at.y),
        }
      },
      (dragged) => {
        const box = marquee.value
        marquee.value = null
        if (dragged && box) pickIn(box, event.ctrlKey || event.metaKey)
      },
    )
  }

  function pickIn(box: Box, adding: boolean): void {
    const found: Record<string, number[]> = adding ? { ...bench.picked } : {}
    for (const spot of spots()) {
      const x = xOf(spot.beat, bench.view, bench.plotWidth)
      const y = yOf(h.scale.value, spot.value)
      if (x < box.left || x > box.right || y < box.top || y > box.bottom) continue
      found[spot.lane] = [...new Set([...(found[spot.lane] ?? []), spot.index])].sort((a, b) => a - b)
    }
    bench.picked = found
    const lanes = Object.keys(found)
    if (lanes.length) bench.chosen = adding ? [...new Set([...bench.chosen, ...lanes])] : lanes
    bench.verb = 'points'
  }

  /** A drag over the chart: the range. With Ctrl the strip's lane joins those that are chosen. */
  function dragRange(event: PointerEvent): void {
    const from = place(event)
    const lane = h.laneAt(from.beat)
    const joining = event.ctrlKey || event.metaKey
    let begun = false
    follow(
      event,
      (next) => {
        if (!begun) choose(lane, joining)
        begun = true
        const [a, b] = [snap(from.beat, next.altKey), snap(place(next).beat, next.altKey)]
        if (a !== b) bench.range = { start: Math.min(a, b), end: Math.max(a, b) }
      },
      (dragged) => {
        if (dragged) return
        if (!joining) {
          bench.cursor = Math.min(Math.max(from.beat, 0), bench.length)
          bench.picked = {}
        }
        if (lane) bench.chosen = joining ? toggled(bench.chosen, lane.id) : [lane.id]
      },
    )
  }
  function choose(lane: LaneOut | undefined, joining: boolean): void {
    if (!lane || bench.chosen.includes(lane.id)) return
    bench.chosen = joining ? [...bench.chosen, lane.id] : [lane.id]
  }
  function toggled(list: string[], id: string): string[] {
    return list.includes(id) ? list.filter((x) => x !== id) : [...list, id]
  }

  // ── drawing ────────────────────────────────────────────────────────────────────────────────

  function homeAt(beat: number): string {
    return h.laneAt(beat)?.home ?? 'track'
  }

  function draw(event: PointerEvent): void {
    const from = place(event)
    const home = homeAt(from.beat)
    const line = bench.pencil.way === 'line'
    const spots = [{ at: line ? snap(from.beat, event.altKey) : from.beat, value: valueAt(from.y) }]
    stroke.value = [{ x: from.x, y: from.y }]
    follow(
      event,
      (next) => {
        for (const part of line ? [next] : (next.getCoalescedEvents?.() ?? [next])) {
          const at = place(part)
          const spot = { at: line ? snap(at.beat, next.altKey) : at.beat, value: valueAt(at.y) }
          if (line) spots.splice(1, 1, spot)
          else spots.push(spot)
          stroke.value = line ? [stroke.value[0]!, { x: at.x, y: at.y }] : [...stroke.value, { x: at.x, y: at.y }]
          said.value = { x: at.x, y: at.y, text: valueText(h.parameter.value, spot.value) }
        }
        h.redraw()
        if (Math.abs(spots[0]!.at - spots[spots.length - 1]!.at) < 1e-6) return
        const tolerance = line ? 0 : Math.max(Number(bench.pencil.tolerance) || 0, 0)
        preview.gesture = { verb: 'draw', parameter: h.parameter.value.id, stroke: [...spots], tolerance, home }
      },
      (dragged) => {
        stroke.value = []
        h.redraw()
        if (dragged) void done()
      },
    )
  }

  /** A double click puts a point where it is. */
  async function add(event: MouseEvent): Promise<void> {
    const at = place(event)
    const foot = h.footAt(at.x, at.y)
    if (foot?.region) return bench.lookCloser(foot.region.id)
    if (foot) return
    if (spotAt(at.x, at.y) || bench.verb === 'draw') return
    const beat = snap(at.beat, event.altKey)
    await addAt(beat, valueAt(at.y))
  }
  async function addAt(beat: number, value: number): Promise<void> {
    const wish: AnyRequest = {
      verb: 'add points',
      parameter: h.parameter.value.id,
      home: homeAt(beat),
      spots: [{ at: beat, value }],
    }
    await session.apply(wish)
  }

  return { press, add, addAt, said, marquee, stroke }
}
