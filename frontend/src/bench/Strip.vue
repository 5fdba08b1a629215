<script setup lang="ts">
// One strip: a parameter's lanes over time on a chart, with the range, the cursor and the preview.
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Curve, LaneOut, ParameterOut, RegionOut, Schemas, TouchedOut } from '../api/client'
import { useBench } from '../state/bench'
import { usePreview } from '../state/preview'
import { useSession } from '../state/session'
import {
  drawBand,
  drawChart,
  drawCurve,
  drawGap,
  drawHeard,
  drawMarkTexts,
  drawRegion,
  drawStroke,
  prepared,
  readInks,
  type Box,
  type Pen,
} from './drawing'
import { AIR, common, partsBeside, partsIn, seen, wholeOf, type Part } from './line'
import { Film, type Known } from './film'
import type { Gap, HeardLine } from './heard'
import { beatAt, fitScale, gridStep, heardReach, LEFT, RIGHT, xOf, type Scale } from './geometry'
import { useHands } from './hands'
import { onPaper } from './paper'
import { usePick } from './pick'

const props = defineProps<{
  parameterId: string
  curves: Map<string, Curve>
  version: number
  reading: Schemas['ReadOut'] | undefined
  heard: HeardLine | undefined
  gaps: Gap[] | undefined
}>()
const emit = defineEmits<{ resize: [height: number] }>()

const HEAD = 18
const session = useSession()
const bench = useBench()
const preview = usePreview()
const plot = ref<HTMLElement | null>(null)

const owner = computed(() => session.parameters.get(props.parameterId)!)
const parameter = computed(() => owner.value.parameter)
const track = computed(() => owner.value.track)
const lanes = computed<LaneOut[]>(() => {
  const all = session.lanesOf.get(props.parameterId) ?? []
  return bench.closer ? all.filter((lane) => lane.home === bench.closer) : all
})
const touched = computed<TouchedOut[]>(() => preview.touched.get(props.parameterId) ?? [])
const height = computed(() => bench.heightOf(props.parameterId))
const inkOf = (p: ParameterOut) => (p.kind === 'continuous' ? p.family : p.kind)
const ink = computed(() => inkOf(parameter.value))
const shared = computed(() => track.value.parameters.filter((p) => bench.shares[props.parameterId]?.includes(p.id)))
const sharable = computed(() =>
  track.value.parameters.filter((p) => p.id !== props.parameterId && session.lanesOf.has(p.id) && !shared.value.includes(p)),
)
function share(id: string): void {
  bench.shares = { ...bench.shares, [props.parameterId]: [...(bench.shares[props.parameterId] ?? []), id] }
}
function unshare(id: string): void {
  bench.shares = { ...bench.shares, [props.parameterId]: (bench.shares[props.parameterId] ?? []).filter((x) => x !== id) }
}
const isGuest = computed(() => !bench.pins.includes(props.parameterId))

const trackLane = computed(() => lanes.value.find((lane) => lane.home === 'track'))
const regionLanes = computed(() => lanes.value.filter((lane) => lane.home !== 'track'))
const home = computed(() => {
  if (!lanes.value.length) return 'no lane yet'
  if (!regionLanes.value.length) return 'on the track'
  return trackLane.value ? 'on the track and in its regions' : 'in its regions'
})
const precedence = computed(() =>
  trackLane.value && regionLanes.value.length ? `${session.data?.precedence} lanes win here` : '',
)
/** The value at the cursor: the lane's there, or with its reason what is heard. */
const readOut = computed(() => {
  const now = props.reading
  if (showsHeard.value) return now ? `heard: ${now.text}` : ''
  const at = bench.hover ?? bench.cursor
  const inside = regionLanes.value.find((lane) => at >= lane.start && at < lane.end)
  const winner = session.data?.precedence === 'track' ? (trackLane.value ?? inside) : (inside ?? trackLane.value)
  return winner ? (now?.lanes[winner.id] ?? '') : `${parameter.value.value_text} (static)`
})
const showsHeard = computed(() => bench.heardOn.includes(props.parameterId))
/** The track's regions, and how each is drawn on this strip. */
const regions = computed(() =>
  inTime(track.value.regions.filter((r) => !bench.closer || r.id === bench.closer)).map((region) => ({
    region,
    speaks: regionLanes.value.some((x) => x.home === region.id),
  })),
)
/** The region lanes that speak: those of regions that are not muted. */
const speaking = computed(() => {
  const muted = new Set(track.value.regions.filter((r) => r.muted).map((r) => r.id))
  return regionLanes.value.filter((lane) => !muted.has(lane.home))
})
const placed = computed(() => inTime((preview.change?.regions ?? []).filter((r) => r.track === track.value.id)))
/** By their start; of those that start together the longest first. */
function inTime<R extends { start: number; length: number }>(list: R[]): R[] {
  return list.sort((one, other) => one.start - other.start || other.length - one.length)
}

const scale = computed<Scale>((before) => {
  const lows = lanes.value.map((lane) => lane.low)
  const highs = lanes.value.map((lane) => lane.high)
  for (const t of touched.value) {
    if (t.low !== null && t.low !== undefined) lows.push(t.low)
    if (t.high !== null && t.high !== undefined) highs.push(t.high)
  }
  // What is heard may fade to silence once: it may take half the strip, not flatten the lanes.
  const heard = props.heard && heardReach(parameter.value, lows, highs, props.heard)
  if (heard) {
    lows.push(heard.low)
    highs.push(heard.high)
  }
  const foot = regions.value.length || placed.value.length ? 20 : 10
  const now = fitScale(parameter.value, lows, highs, HEAD + 6, height.value - foot)
  const same = before && (Object.keys(now) as (keyof Scale)[]).every((key) => now[key] === before[key])
  return same ? before : now
})

/** The stretch of time of which all that is drawn here is known. */
const known = computed<Known | null>(() => {
  const drawn = [...lanes.value, ...shared.value.flatMap((p) => session.lanesOf.get(p.id) ?? [])].map((lane) =>
    props.curves.get(lane.id),
  )
  if (showsHeard.value) drawn.push(props.heard?.curve)
  drawn.push(...touched.value.flatMap((t) => (t.after ? [t.after] : [])))
  if (!drawn.length) return null
  const had = drawn.filter((curve) => curve !== undefined)
  const grain = had.reduce((sum, curve) => sum + curve.end - curve.start, 0)
  const [start, end] = [Math.max(...had.map((curve) => curve.start)), Math.min(...had.map((curve) => curve.end))]
  return { start, end, grain, all: had.length === drawn.length }
})

const film = new Film()
const margin = document.createElement('canvas')
let marked: Scale | null = null

/** The strip's part of the paper. */
function paint(c: CanvasRenderingContext2D, box: Box): void {
  if (!session.data) return
  const inks = readInks()
  const { range } = bench
  film.show(c, box, known.value, drawContent, soon)
  if (marked !== scale.value) {
    marked = scale.value
    const edge = prepared(margin, RIGHT - AIR, box.height, true)
    fill(edge, RIGHT - AIR, box.height)
    edge.translate(-AIR, 0)
    drawMarkTexts(edge, marked, inks)
  }
  c.drawImage(margin, LEFT + box.width + AIR, 0, RIGHT - AIR, box.height)
  if (range) drawBand(c, box, range.start, range.end, inks)
  drawStroke(c, stroke.value, inks)
}
function fill(c: CanvasRenderingContext2D, width: number, height: number): void {
  c.fillStyle = isGuest.value ? readInks().guest : readInks().sheet
  c.fillRect(0, 0, width, height)
}
const soon = onPaper(props.parameterId, paint)

/** Everything that slides along when panning: the chart, regions, lanes and the preview. */
function drawContent(c: CanvasRenderingContext2D, box: Box): void {
  const inks = readInks()
  fill(c, box.width + LEFT + RIGHT, box.height)
  drawChart(c, box, scale.value, bench.bars, inks)
  drawRegions(c, box)
  if (props.heard && showsHeard.value) drawHeard(c, box, scale.value, props.heard, inks)
  const pen: Pen = {
    color: inks.family[ink.value] ?? inks.ink,
    width: parameter.value.kind === 'continuous' ? 1.6 : 2.2,
    dash: [],
    points: 'dots',
  }
  drawShared(c, box)
  drawLanes(c, box, pen)
  if (!lanes.value.length && !touched.value.length) drawStatic(c, box, pen)
  for (const t of touched.value) drawPreview(c, box, t, pen)
}

const isSource = computed(() => lanes.value.some((lane) => bench.chosen.includes(lane.id)))

function drawRegions(c: CanvasRenderingContext2D, box: Box): void {
  const inks = readInks()
  let free = 0 // names of regions that overlap stand side by side
  for (const { region, speaks } of regions.value) {
    const ink = bench.regions.includes(region.id) ? inks.ink : inks.bracket
    free = drawRegion(c, box, scale.value, region, { speaks, ink, chosen: bench.regions.includes(region.id) }, inks, free)
  }
  free = 0
  for (const region of placed.value)
    free = drawRegion(c, box, scale.value, region, { speaks: true, ink: inks.fresh, chosen: true }, inks, free)
  for (const gap of bench.closer ? [] : (props.gaps ?? [])) {
    // A region without a lane here may lie in the gap: its name stands there instead.
    const next = Math.min(...regions.value.map((r) => r.region.start).filter((start) => start > gap.start), gap.end)
    const chosen = bench.gap?.start === gap.start && bench.gap.parameter === gap.parameter
    drawGap(c, box, scale.value, { ...gap, end: next }, chosen, inks)
  }
}

function drawLanes(c: CanvasRenderingContext2D, box: Box, pen: Pen): void {
  const regionWins = session.data?.precedence !== 'track'
  for (const lane of lanes.value) {
    const curve = props.curves.get(lane.id)
    if (!curve || !seen(box, xOf(lane.start, box.view, box.width), xOf(lane.end, box.view, box.width))) continue
    const going = touched.value.find((t) => t.lane === lane.id || t.home === 'heard')
    const mine = new Set(bench.picked[lane.id])
    const { range } = bench
    const inRange = !!range && bench.chosen.includes(lane.id) && !mine.size
    const filled = (beat: number, index: number) => mine.has(index) || (inRange && beat >= range.start && beat < range.end)
    const stays = going ? partsBeside(box, partsIn(box, [going])) : wholeOf(box)
    if (lane.home !== 'track') {
      const faint = !speaking.value.includes(lane) || (!regionWins && !!trackLane.value)
      drawCurve(c, box, scale.value, curve, { ...pen, filled, faint }, common(stays, partsIn(box, [lane])))
    } else {
      drawTrackLane(c, box, curve, { ...pen, filled }, regionWins, stays)
    }
  }
}

/** The track's lane, faint where a region's lane wins. */
function drawTrackLane(c: CanvasRenderingContext2D, box: Box, curve: Curve, pen: Pen, regionWins: boolean, stays: Part[]): void {
  const beaten = partsIn(box, regionWins ? speaking.value : [])
  drawCurve(c, box, scale.value, curve, pen, common(stays, partsBeside(box, beaten)))
  if (beaten.length) drawCurve(c, box, scale.value, curve, { ...pen, faint: true, points: 'none' }, common(stays, beaten))
}

/** Lanes that share this strip, each on a scale of its own, so without handles. */
function drawShared(c: CanvasRenderingContext2D, box: Box): void {
  const inks = readInks()
  for (const other of shared.value) {
    const theirs = session.lanesOf.get(other.id) ?? []
    const own = fitScale(
      other,
      theirs.map((x) => x.low),
      theirs.map((x) => x.high),
      scale.value.top,
      scale.value.bottom,
    )
    for (const lane of theirs) {
      const curve = props.curves.get(lane.id)
      if (!curve) continue
      const color = inks.family[inkOf(other)] ?? inks.ink
      const parts = lane.home === 'track' ? wholeOf(box) : partsIn(box, [lane])
      drawCurve(c, box, own, curve, { color, width: 1.2, dash: [7, 2], points: 'none' }, parts)
    }
  }
}

function drawStatic(c: CanvasRenderingContext2D, box: Box, pen: Pen): void {
  const at = bench.view.start
  const still = {
    lane: '',
    start: at,
    end: at,
    beats: [at],
    values: [parameter.value.value],
    shapes: [0],
    lows: [],
    highs: [],
    first: 0,
  }
  drawCurve(c, box, scale.value, still, { ...pen, dash: [1, 5], points: 'none' })
}

/** Pencil for what is there now, fresh ink for what would come; outside the span the lane as it is. */
function drawPreview(c: CanvasRenderingContext2D, box: Box, t: TouchedOut, pen: Pen): void {
  const inks = readInks()
  const isNew = !lanes.value.some((lane) => lane.id === t.lane)
  const inRegion = t.home !== 'track' && t.home !== 'heard'
  const span = partsIn(box, [t])
  if (isNew && t.home === 'track' && t.before)
    drawCurve(c, box, scale.value, t.before, { ...pen, dash: [1, 5], points: 'none' }, partsBeside(box, span))
  if (t.before && !(isNew && inRegion))
    drawCurve(c, box, scale.value, t.before, { color: inks.pencil, width: 1.3, dash: [5, 4], points: 'none' }, span)
  if (!t.after) return
  const fresh: Pen = { color: inks.fresh, width: 2, dash: [], points: 'diamonds' }
  const beaten = t.home === 'track' && session.data?.precedence !== 'track' ? common(span, partsIn(box, regionLanesToCome())) : []
  drawCurve(c, box, scale.value, t.after, fresh, common(span, partsBeside(box, beaten)))
  if (beaten.length) drawCurve(c, box, scale.value, t.after, { ...fresh, faint: true, points: 'none' }, beaten)
}

/** The lanes in regions that there would be: they win over the track's, which is drawn faint. */
function regionLanesToCome(): { start: number; end: number }[] {
  const stay = speaking.value.filter((lane) => !touched.value.some((t) => t.lane === lane.id))
  return [...stay, ...touched.value.filter((t) => t.home !== 'track' && t.home !== 'heard' && t.points_after)]
}

function anew(): void {
  film.spoil()
  soon()
}
/** The same curves over more time, or in finer detail: no hurry. */
function fuller(): void {
  film.fade()
  soon()
}

watch(
  [
    () => bench.plotWidth,
    height,
    () => props.version,
    touched,
    isSource,
    () => session.data,
    () => (isSource.value ? bench.range : null),
    () => bench.picked,
    () => bench.chosen,
    shared,
    showsHeard,
    () => bench.regions,
    () => bench.gap,
    placed,
    isGuest,
  ],
  anew,
)
watch(isGuest, () => (marked = null))
/** What comes in by itself: the room that what is heard takes, and gaps. */
watch([scale, () => props.gaps], () => {
  film.age()
  soon()
})
watch([() => props.curves, () => props.heard], fuller)
onMounted(() => {
  void document.fonts.ready.then(() => {
    marked = null
    anew()
  })
})
onBeforeUnmount(() => film.spoil())

// ── hands ────────────────────────────────────────────────────────────────────────────────────

/** The lane meant by a click at a beat: the region's there, else the track's. */
function laneAt(beat: number): LaneOut | undefined {
  return regionLanes.value.find((lane) => beat >= lane.start && beat < lane.end) ?? trackLane.value ?? lanes.value[0]
}
const curveOf = (lane: string) => props.curves.get(lane)
/** The region or the gap whose name stands at the strip's foot under the pointer. */
function footAt(x: number, y: number): { region?: RegionOut; gap?: Gap } | undefined {
  if (y < scale.value.bottom + 1 || bench.closer) return undefined
  const beat = beatAt(x, bench.view, bench.plotWidth)
  const over = regions.value.filter(({ region }) => beat >= region.start && beat < region.start + region.length)
  const region = over.sort((a, b) => a.region.length - b.region.length)[0]?.region
  if (region) return { region }
  const gap = props.gaps?.find((g) => beat >= g.start && beat < g.end)
  return gap ? { gap } : undefined
}
const hands = useHands({ plot, scale, parameter, lanes, curveOf, laneAt, footAt, redraw: soon })
const { said, marquee, stroke } = hands

function beatOf(event: PointerEvent): number {
  return beatAt(event.clientX - plot.value!.getBoundingClientRect().left, bench.view, bench.plotWidth)
}

/** Keys on a strip work on its picked points; what they do not use moves the window. */
async function key(event: KeyboardEvent): Promise<void> {
  if (event.ctrlKey || event.metaKey) return
  const mine = bench.pickedRows.filter((p) => lanes.value.some((lane) => lane.id === p.lane))
  const far = event.shiftKey ? 10 : event.altKey ? 0.1 : 1
  const step =
    parameter.value.kind === 'continuous'
      ? parameter.value.axis === 'log'
        ? 1 / 12
        : (parameter.value.high - parameter.value.low) / 200
      : 1
  const beat = bench.grid === 'off' ? 0.25 : bench.grid === 'bar' ? 4 : gridStep(bench.grid)
  const nudge = (by: number, rise: number) => session.apply({ verb: 'move points', picked: mine, by, rise })
  const withPoints: Record<string, () => unknown> = {
    ArrowLeft: () => nudge(-beat * far, 0),
    ArrowRight: () => nudge(beat * far, 0),
    ArrowUp: () => nudge(0, step * far),
    ArrowDown: () => nudge(0, -step * far),
    Delete: () => session.apply({ verb: 'remove points', picked: mine }),
    Backspace: () => session.apply({ verb: 'remove points', picked: mine }),
    h: () => session.apply({ verb: 'shape segments', picked: mine, bend: null }),
    l: () => session.apply({ verb: 'shape segments', picked: mine, bend: 0 }),
  }
  const always: Record<string, () => unknown> = {
    n: () => walkPoints('next'),
    b: () => walkPoints('previous'),
    a: () => hands.addAt(bench.cursor, valueHere()),
  }
  const action = (mine.length ? withPoints[event.key] : undefined) ?? always[event.key]
  if (!action) return
  event.preventDefault()
  event.stopPropagation()
  await action()
}
const pick = usePick()
async function walkPoints(way: 'next' | 'previous'): Promise<void> {
  const lane = laneAt(bench.cursor)
  if (lane && !lanes.value.some((x) => bench.picked[x.id]?.length)) bench.chosen = [lane.id]
  await pick(way)
}
/** The nearest drawn point's value, for a point added by key; it is typed exactly afterwards. */
function valueHere(): number {
  const curve = curveOf(laneAt(bench.cursor)?.id ?? '')
  const i = curve?.beats.findLastIndex((beat) => beat <= bench.cursor) ?? -1
  return curve?.values[Math.max(i, 0)] ?? parameter.value.value
}

function choosePrecedence(): void {
  bench.embedding = 'precedence'
  bench.verb = 'embed'
}

function hover(event: PointerEvent): void {
  const beat = beatOf(event)
  bench.hover = beat >= bench.view.start && beat <= bench.view.end ? beat : null
}

function startResize(event: PointerEvent): void {
  const handle = event.currentTarget as HTMLElement
  handle.setPointerCapture(event.pointerId)
  const from = event.clientY
  const before = height.value
  const move = (next: PointerEvent) => emit('resize', before + next.clientY - from)
  handle.addEventListener('pointermove', move)
  handle.addEventListener('pointerup', () => handle.removeEventListener('pointermove', move), { once: true })
}

function resizeByKey(event: KeyboardEvent): void {
  const step = { ArrowDown: 12, ArrowUp: -12 }[event.key]
  if (!step) return
  event.preventDefault()
  event.stopPropagation()
  emit('resize', height.value + step)
}

const described = computed(
  () =>
    `${track.value.name} ${parameter.value.name}, ${home.value}, ` +
    `${lanes.value.reduce((sum, lane) => sum + lane.points, 0)} points. ${readOut.value} at the cursor.`,
)
</script>

<template>
  <section class="strip" :class="{ guest: isGuest }" :style="{ height: `${height}px` }" :data-strip="parameterId">
    <div
      ref="plot"
      class="plot"
      role="img"
      :aria-label="described"
      tabindex="0"
      @pointerdown="hands.press"
      @dblclick="hands.add"
      @pointermove="hover"
      @pointerleave="bench.hover = null"
      @keydown="key"
    />
    <div
      v-if="marquee"
      class="marquee"
      :style="{
        left: `${marquee.left}px`,
        top: `${marquee.top}px`,
        width: `${marquee.right - marquee.left}px`,
        height: `${marquee.bottom - marquee.top}px`,
      }"
    />
    <output v-if="said" class="said number" :style="{ left: `${said.x + 12}px`, top: `${Math.max(said.y - 24, 0)}px` }">{{
      said.text
    }}</output>
    <div class="head">
      <header>
        <b>{{ track.name }}</b>
        <b :class="`ink-${ink}`">{{ parameter.name }}</b>
        <button
          v-for="p in shared"
          :key="p.id"
          class="link"
          :class="`ink-${inkOf(p)}`"
          :title="`Take ${p.name} off this strip`"
          @click="unshare(p.id)"
        >
          with {{ p.name }}
        </button>
        <span class="soft">{{ home }}</span>
        <span v-if="!track.reads" class="alarm">not reading</span>
        <button v-if="precedence" class="link soft" title="See and change which lane wins" @click="choosePrecedence">
          {{ precedence }}
        </button>
        <span v-if="isGuest && !bench.closer" class="soft">shown for the preview</span>
        <span v-if="showsHeard && reading" class="soft">{{ reading.why }}</span>
      </header>
      <div class="corner">
        <button class="link every" :title="`Show only ${parameter.name}, on every track`" @click="bench.showEvery(parameterId)">
          every {{ parameter.name }}
        </button>
        <select
          v-if="sharable.length"
          :key="shared.length"
          class="every"
          :value="''"
          :aria-label="`Share this strip with another lane of ${track.name}`"
          @change="share(($event.target as HTMLSelectElement).value)"
        >
          <option value="" disabled>share with</option>
          <option v-for="p in sharable" :key="p.id" :value="p.id">{{ p.name }}</option>
        </select>
        <button
          class="link every"
          :aria-pressed="showsHeard"
          title="Draw what is heard, with its reasons"
          @click="bench.toggleHeard(parameterId)"
        >
          heard
        </button>
        <span class="number read-out">{{ readOut }}</span>
        <template v-if="bench.closer" />
        <button v-else-if="isGuest" class="link" @click="bench.pin(parameterId)">keep</button>
        <button v-else class="link" :aria-label="`Unpin ${track.name} ${parameter.name}`" @click="bench.togglePin(parameterId)">
          unpin
        </button>
      </div>
    </div>
    <div
      class="grip"
      role="separator"
      aria-orientation="horizontal"
      tabindex="0"
      :aria-label="`Height of ${track.name} ${parameter.name}`"
      :aria-valuenow="height"
      @pointerdown="startResize"
      @keydown="resizeByKey"
    />
  </section>
</template>

<style scoped>
.strip {
  position: relative;
  border-bottom: 1px solid var(--line);
  overflow: hidden;
  user-select: none;
}
.marquee {
  position: absolute;
  border: 1px dashed var(--ink);
  background: rgb(27 36 48 / 6%);
  pointer-events: none;
}
.said {
  position: absolute;
  padding: 1px 6px;
  background: var(--ink);
  color: #fffdf7;
  border-radius: 3px;
  font-size: 12px;
  pointer-events: none;
  white-space: nowrap;
}
.plot {
  position: absolute;
  inset: 0 0 -1px;
  cursor: crosshair;
  touch-action: none;
}
.plot:focus-visible {
  outline-offset: -2px;
}
.head {
  position: absolute;
  top: 2px;
  left: 12px;
  right: 70px;
  display: flex;
  justify-content: space-between;
  gap: 16px;
  font-size: 12px;
  pointer-events: none;
}
header {
  display: flex;
  gap: 8px;
  min-width: 0;
  overflow: hidden;
  white-space: nowrap;
}
.alarm {
  color: var(--fresh);
  font-weight: 700;
}
.corner {
  display: flex;
  gap: 10px;
  flex: none;
  white-space: nowrap;
}
.corner > * {
  pointer-events: auto;
}
.corner .link {
  color: var(--soft);
}
.corner .read-out {
  pointer-events: none;
}
.corner .every {
  display: none;
}
.strip:hover .corner .every,
.strip:focus-within .corner .every {
  display: revert;
}
.corner select {
  font: 12px var(--sans);
  height: 18px;
  border: 0;
  border-bottom: 1px dotted var(--soft);
  background: transparent;
  color: var(--soft);
  max-width: 86px;
}
header .link {
  pointer-events: auto;
  font-weight: 700;
}
.grip {
  position: absolute;
  left: 0;
  right: 0;
  bottom: 0;
  height: 5px;
  cursor: ns-resize;
}
.grip:hover,
.grip:focus-visible {
  background: var(--sand-deep);
}
</style>
