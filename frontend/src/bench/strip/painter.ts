// Paints one strip: what slides along when panning is kept as a picture, the range and a stroke go on top.
import { computed, onBeforeUnmount, watch, type Ref } from 'vue'
import { onFonts } from '../../state/fonts'
import { papers } from '../../state/theme'
import type { Curve, Finding } from '../../api/client'
import { useBench } from '../../state/bench'
import { useSelection } from '../../state/selection'
import { secondsAt } from '../../lib/clock'
import { reachOf, useOutlines } from '../../state/outlines'
import { useSession } from '../../state/session'
import type { HeardLine } from '../../state/curves'
import {
  drawBand,
  drawChart,
  drawCurve,
  drawFinding,
  drawHeard,
  drawMarkTexts,
  drawPlace,
  drawRails,
  drawRegion,
  drawSilhouette,
  drawStroke,
  prepared,
  readInks,
  type Box,
} from '../../lib/drawing'
import { Film, type Known } from '../../lib/film'
import { fitScale, heardReach, LEFT, RIGHT, xOf, type Scale } from '../../lib/geometry'
import { AIR } from '../../lib/line'
import { HEAD, onPaper } from '../../state/paper'
import { linesOf } from '../../lib/hands'
import { ridden } from '../../state/desk/ridden'
import type { Content } from '../../state/content'
import { freshMarks, laneMarks, penOf, pencilMarks, restingMark, sharedMarks, type Mark, type Sheet } from './layers'

const ROOM = { rules: 16, none: 6 } // pixels between head and chart, with the rules of placements and without
const FOOT = { names: 20, none: 10 } // pixels below the chart, with regions' names and without

/** What is drawn, as it comes from the server. */
export interface Drawn {
  curves: Map<string, Curve>
  version: number
  heard: HeardLine | undefined
  findings: Finding[] | undefined
}

type Context = CanvasRenderingContext2D

export function usePainter(content: Content, drawn: Drawn, height: Ref<number>, stroke: () => { x: number; y: number }[]) {
  const session = useSession()
  const bench = useBench()
  const selection = useSelection()
  const outlines = useOutlines()
  const { parameter, lanes, touched, inHand, shared, showsHeard } = content
  const { regions, placed, places, rails, isGuest, heardIn } = content

  const scale = computed<Scale>((before) => {
    const lows = lanes.value.map((lane) => lane.low)
    const highs = lanes.value.map((lane) => lane.high)
    for (const t of touched.value) {
      if (t.low != null) lows.push(t.low)
      if (t.high != null) highs.push(t.high)
    }
    // What is heard may fade to silence once: it may take half the strip, not flatten the lanes.
    const heard = drawn.heard && heardReach(parameter.value, lows, highs, drawn.heard)
    if (heard) {
      lows.push(heard.low)
      highs.push(heard.high)
    }
    const foot = regions.value.length || placed.value.length ? FOOT.names : FOOT.none
    const now = fitScale(parameter.value, lows, highs, HEAD + (places.value.length ? ROOM.rules : ROOM.none), height.value - foot)
    // A hand measures by what it saw at its press; and while time runs, by what is seen.
    const measured = inHand.value || bench.playhead !== null
    if (before && measured && now.top === before.top && now.bottom === before.bottom) return before
    const same = before && (Object.keys(now) as (keyof Scale)[]).every((key) => now[key] === before[key])
    return same ? before : now
  })

  /** The stretch of time of which all that is drawn here is known. */
  const known = computed<Known | null>(() => {
    const shown = [...lanes.value, ...shared.value.flatMap((p) => session.lanesOf.get(p.id) ?? [])].map((lane) =>
      drawn.curves.get(lane.id),
    )
    if (showsHeard.value) shown.push(drawn.heard?.curve)
    if (!inHand.value) shown.push(...touched.value.flatMap((t) => (t.after ? [t.after] : [])))
    if (!shown.length) return null
    const had = shown.filter((curve) => curve !== undefined)
    const grain = had.reduce((sum, curve) => sum + curve.end - curve.start, 0)
    const [start, end] = [Math.max(...had.map((curve) => curve.start)), Math.min(...had.map((curve) => curve.end))]
    return { start, end, grain, all: had.length === shown.length }
  })

  /** How far the track's sound reaches between two beats, behind its level and its mutes, and where it is looked at closely. */
  const sounding = computed(() => {
    const { family } = parameter.value
    const wanted = family === 'level' || family === 'mute' || !!bench.closer
    const outline = wanted ? outlines.of(content.track.value) : null
    const clock = session.data?.clock
    return outline && clock
      ? (start: number, end: number) => reachOf(outline, secondsAt(clock, start), secondsAt(clock, end))
      : null
  })

  const film = new Film()
  const margin = document.createElement('canvas')
  let marked: Scale | null = null

  /** The strip's part of the paper. */
  function paint(c: Context, box: Box): void {
    if (!session.data) return
    const inks = readInks()
    const { range } = selection
    film.show(c, box, known.value, drawContent, soon)
    if (inHand.value) for (const t of touched.value) put(c, box, freshMarks(box, sheet(), t, inks))
    if (marked !== scale.value) {
      marked = scale.value
      const edge = prepared(margin, RIGHT - AIR, box.height, true)
      fill(edge, RIGHT - AIR, box.height)
      edge.translate(-AIR, 0)
      drawMarkTexts(edge, marked, inks)
    }
    c.drawImage(margin, LEFT + box.width + AIR, 0, RIGHT - AIR, box.height)
    if (range) drawBand(c, box, range.start, range.end, inks)
    for (const one of rails.value) drawRails(c, box, scale.value, one, inks)
    drawStroke(c, stroke(), inks)
    for (const hand of ridden.value.get(content.id) ?? [])
      for (const line of linesOf(hand, box, scale.value)) drawStroke(c, line, inks)
  }
  function fill(c: Context, width: number, tall: number): void {
    c.fillStyle = isGuest.value ? readInks().guest : readInks().sheet
    c.fillRect(0, 0, width, tall)
  }
  const soon = onPaper(content.id, paint)

  /** Everything that slides along when panning: the chart, regions, lanes and the preview. */
  function drawContent(c: Context, box: Box): void {
    const inks = readInks()
    fill(c, box.width + LEFT + RIGHT, box.height)
    if (sounding.value) drawSilhouette(c, box, scale.value, sounding.value, inks)
    drawChart(c, box, scale.value, bench.bars, inks)
    drawRegions(c, box)
    if (drawn.heard && showsHeard.value) drawHeard(c, box, scale.value, drawn.heard, inks)
    const pen = penOf(parameter.value, inks)
    const about = sheet()
    for (const other of shared.value)
      put(c, box, sharedMarks(box, other, session.lanesOf.get(other.id) ?? [], drawn.curves, scale.value, inks))
    put(c, box, laneMarks(box, about, selection, pen))
    if (!lanes.value.length && !touched.value.length) put(c, box, [restingMark(box, parameter.value, pen)])
    for (const t of touched.value) {
      put(c, box, pencilMarks(box, about, t, pen, inks))
      if (!inHand.value) put(c, box, freshMarks(box, about, t, inks))
    }
    for (const place of places.value) drawPlace(c, box, place, selection.places.includes(place.id), pen.color, inks)
  }

  function drawRegions(c: Context, box: Box): void {
    const inks = readInks()
    let free = 0 // names of regions that overlap stand side by side
    const taken: [number, number][] = []
    for (const { region, hasLane } of regions.value) {
      const chosen = selection.regions.includes(region.id)
      const how = { hasLane, ink: chosen ? inks.ink : inks.bracket, chosen }
      const noted = { ...region, note: session.noteOn('region', region.id) }
      const next = drawRegion(c, box, scale.value, noted, how, inks, free)
      if (next !== free) taken.push([Math.max(xOf(region.start, box.view, box.width), LEFT, free), next - 8])
      free = next
    }
    free = 0
    for (const region of placed.value)
      free = drawRegion(c, box, scale.value, region, { hasLane: true, ink: inks.fresh, chosen: true }, inks, free)
    for (const finding of bench.closer ? [] : (drawn.findings ?? [])) {
      // A region without a lane here may lie in the span: its name stands there instead.
      const starts = regions.value.map((r) => r.region.start).filter((start) => start > finding.start)
      const { finding: one } = selection
      const chosen = one?.start === finding.start && one.parameter === finding.parameter && one.kind === finding.kind
      drawFinding(c, box, scale.value, { ...finding, end: Math.min(...starts, finding.end) }, chosen, inks, taken)
    }
  }

  /** What a strip is about, for its layers. */
  const sheet = (): Sheet => ({
    parameter: parameter.value,
    lanes: lanes.value,
    touched: touched.value,
    curves: drawn.curves,
    heardIn: heardIn.value,
    wins: session.data?.precedence === 'track' ? 'track' : 'region',
  })
  function put(c: Context, box: Box, marks: readonly Mark[]): void {
    for (const one of marks) drawCurve(c, box, one.scale ?? scale.value, one.curve, one.pen, one.parts)
  }

  // ── when to draw ───────────────────────────────────────────────────────────────────────────

  function anew(): void {
    film.invalidate()
    soon()
  }
  /** The same curves over more time, or in finer detail: no hurry. */
  function fuller(): void {
    film.refine()
    soon()
  }
  /** What a preview changes of all that slides along; while a hand is at work, the fresh ink is no part of that. */
  const changed = computed(() =>
    inHand.value
      ? touched.value.map((t) => [t.lane, t.home, t.start, t.end, t.before === null].join()).join('\n')
      : touched.value,
  )
  const isSource = computed(() => lanes.value.some((lane) => selection.lanes.includes(lane.id)))
  watch(
    [
      ...[() => bench.plotWidth, height, () => drawn.version, changed, isSource, () => session.data],
      ...[() => (isSource.value ? selection.range : null), () => selection.points, () => selection.lanes, shared, showsHeard],
      ...[sounding, papers, () => selection.regions, () => selection.finding, placed, places, () => selection.places, isGuest],
    ],
    anew,
  )
  watch([isGuest, papers], () => (marked = null), { flush: 'sync' })
  // What comes in by itself: the room that what is heard takes, and findings.
  watch([scale, () => drawn.findings], () => {
    if (inHand.value) return anew()
    film.restyle()
    soon()
  })
  watch([touched, rails], soon)
  watch(ridden, (now, before) => (now.has(content.id) || before.has(content.id)) && soon())
  watch([() => drawn.curves, () => drawn.heard], fuller)
  onFonts(() => {
    marked = null
    anew()
  })
  onBeforeUnmount(() => film.invalidate())

  return { scale, soon }
}
