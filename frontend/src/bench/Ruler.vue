<script setup lang="ts">
// The ruler: bars and seconds over the strips, the range's two flags, and the cursor's handle.
import { computed, ref } from 'vue'
import { useTransport } from '../state/desk/transport'
import { follow } from '../lib/dragging'
import { useBench } from '../state/bench'
import { useHolding } from '../state/holding'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { useWorksheet } from '../state/worksheet'
import { barStride, beatAt, snapped } from '../lib/geometry'
import { clockText, positionText } from '../lib/said'
import { DRAG } from './hands/hand'
import MarkerRow from './MarkerRow.vue'
import { useTape } from './tape'

const session = useSession()
const selection = useSelection()
const bench = useBench()
const hold = useHolding()
const worksheet = useWorksheet()
const transport = useTransport()

const ruler = ref<HTMLElement | null>(null)
const tape = ref<HTMLElement | null>(null)
const markerRow = ref<InstanceType<typeof MarkerRow> | null>(null)
const { reach, xAt } = useTape(tape)

const marks = computed(() => {
  const { bars } = bench
  const { start, end } = reach.value
  const stride = barStride(bars, { start, end: start + (end - start) / 3 }, bench.plotWidth)
  return bars
    .filter((b) => (b.number - 1) % stride === 0 && b.beat >= start && b.beat <= end)
    .map((b) => ({ number: b.number, x: xAt(b.beat), seconds: clockText(b.beat, session.data!.clock) }))
})

function inView(beat: number | undefined): boolean {
  return beat !== undefined && beat >= bench.view.start - 1e-9 && beat <= bench.view.end + 1e-9
}
/** What is seen, as facts that seldom change: the ruler is not rendered anew at every frame of a pan. */
const seen = { start: computed(() => inView(selection.range?.start)), end: computed(() => inView(selection.range?.end)) }
const x = (beat: number) => `${xAt(beat)}px`

/** A beat on the grid, or on a nearer marker; Alt is free of both. */
function beatOf(event: MouseEvent, host: HTMLElement): number {
  const beat = beatAt(event.clientX - host.getBoundingClientRect().left, bench.view, bench.plotWidth)
  const [bars, length] = [session.data?.bars ?? [], session.data?.length ?? 0]
  if (event.altKey) return snapped(beat, 'off', bars, length)
  const within = (5 / bench.plotWidth) * (bench.view.end - bench.view.start)
  return snapped(beat, bench.grid, bars, length, { beats: (session.data?.markers ?? []).map((m) => m.at), within })
}
/** Where a marker that is held comes to stand: on the grid, as the others do not draw it. */
function markerBeat(event: MouseEvent): number {
  const left = ruler.value!.getBoundingClientRect().left
  const beat = beatAt(event.clientX - left, bench.view, bench.plotWidth)
  return snapped(beat, event.altKey ? 'off' : bench.grid, session.data?.bars ?? [], session.data?.length ?? 0)
}

function drag(event: PointerEvent, move: (beat: number) => void, giveUp: () => void): void {
  const host = (event.currentTarget as HTMLElement).closest<HTMLElement>('.ruler')!
  follow(event, { move: (next) => move(beatOf(next, host)), giveUp })
}

function placeCursor(event: PointerEvent): void {
  if (transport.running) return transport.goTo(beatOf(event, event.currentTarget as HTMLElement))
  const before = bench.cursor
  bench.cursor = beatOf(event, event.currentTarget as HTMLElement)
  drag(
    event,
    (beat) => (bench.cursor = beat),
    () => (bench.cursor = before),
  )
}

function moveEdge(edge: 'start' | 'end', beat: number): void {
  const range = selection.range
  if (!range) return
  if (edge === 'start' && beat < range.end) selection.range = { ...range, start: beat }
  if (edge === 'end' && beat > range.start) selection.range = { ...range, end: beat }
}

/** With Ctrl the end of the range stretches what the chosen lanes do in it: previewed while it moves, applied when let go. */
const stretched = ref<{ x: number; text: string } | null>(null)
function holdEdge(edge: 'start' | 'end', event: PointerEvent): void {
  const range = selection.range
  if (edge === 'start' || !range || !selection.lanes.length || !(event.ctrlKey || event.metaKey))
    return drag(
      event,
      (beat) => moveEdge(edge, beat),
      () => (selection.range = range),
    )
  const host = (event.currentTarget as HTMLElement).closest<HTMLElement>('.ruler')!
  worksheet.verb = 'retime'
  hold(event, {
    from: DRAG,
    move: (next) => {
      const end = Math.max(beatOf(next, host), range.start + 1 / 64)
      const length = end - range.start
      const { following } = worksheet
      const still = { factor: 1, by: 0, milliseconds: 0 }
      const span = { start: range.start, end: range.end, length, following }
      const ratio = length / (range.end - range.start)
      stretched.value = { x: xAt(end), text: `${+length.toFixed(3)} beats, ${+ratio.toFixed(3)} × its length` }
      return { verb: 'retime', lanes: selection.lanes, way: 'stretch', ...span, ...still }
    },
    end: () => (stretched.value = null),
    done: (title, asked) => {
      if (title && asked.verb === 'retime')
        selection.range = { start: range.start, end: Math.min(range.start + asked.length!, bench.length) }
    },
  })
}

function nudgeEdge(edge: 'start' | 'end', event: KeyboardEvent): void {
  const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (!way || !selection.range) return
  event.preventDefault()
  event.stopPropagation()
  const step = event.altKey ? 0.01 : 1
  moveEdge(edge, Math.min(Math.max(selection.range[edge] + way * step, 0), bench.length))
}
</script>

<template>
  <div
    ref="ruler"
    class="ruler"
    title="Double click: the range from one marker to the next"
    @pointerdown="placeCursor"
    @dblclick="markerRow?.takeBetween($event)"
  >
    <div class="glass" :style="{ width: `${bench.plotWidth + 2}px` }">
      <div ref="tape" class="tape">
        <MarkerRow ref="markerRow" :reach="reach" :x-at="xAt" :beat-of="markerBeat" />
        <div v-for="mark in marks" :key="mark.number" class="mark number" :style="{ left: `${mark.x}px` }">
          <span>{{ mark.number }}</span><small>{{ mark.seconds.slice(0, -4) }}</small>
        </div>
        <template v-if="selection.range && session.data">
          <button
            v-for="edge in ['start', 'end'] as const"
            v-show="seen[edge].value"
            :key="edge"
            class="flag"
            :class="edge"
            :style="{ left: x(selection.range[edge]) }"
            :aria-label="`Range ${edge}, ${positionText(selection.range[edge], session.data.bars)}. Arrow keys move it.`"
            @pointerdown.stop="holdEdge(edge, $event)"
            @keydown="nudgeEdge(edge, $event)"
          />
        </template>
        <output v-if="stretched" class="said number" :style="{ left: `${stretched.x}px` }">{{ stretched.text }}</output>
        <i class="cursor" :style="{ left: x(bench.cursor) }" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.ruler {
  position: relative;
  height: 45px;
  border-bottom: 1px solid var(--ink);
  background: var(--sheet);
  cursor: text;
  overflow: hidden;
  user-select: none;
  touch-action: none;
}
.glass {
  position: absolute;
  top: 0;
  bottom: 0;
  left: 0;
  padding-left: 11px;
  box-sizing: content-box;
  overflow: clip;
  overflow-clip-margin: 8px;
}
.ruler::before {
  content: '';
  position: absolute;
  inset: 0 0 auto;
  height: 15px;
  border-bottom: 1px solid var(--line);
  background: var(--paper);
}
.tape {
  position: absolute;
  top: 0;
  bottom: 0;
  left: 0;
  width: 100%;
  will-change: transform;
}
.mark {
  position: absolute;
  top: 15px;
  height: 30px;
  padding: 2px 0 0 4px;
  border-left: 1px solid var(--line);
  font-size: 12px;
  line-height: 13px;
  color: var(--ink);
  pointer-events: none;
}
.mark span,
.mark small {
  display: block;
}
.mark small {
  color: var(--soft);
  font-size: 10px;
}
.flag {
  position: absolute;
  bottom: 0;
  width: 14px;
  height: 14px;
  padding: 0;
  border: 0;
  background: var(--ink);
  cursor: ew-resize;
  touch-action: none;
}
.flag.start {
  clip-path: polygon(0 0, 100% 0, 0 100%);
}
.flag.end {
  clip-path: polygon(0 0, 100% 0, 100% 100%);
  transform: translateX(-100%);
}
.said {
  position: absolute;
  top: 17px;
  margin-left: 6px;
}
.cursor {
  position: absolute;
  bottom: -1px;
  width: 9px;
  height: 9px;
  margin-left: -4px;
  border-radius: 50% 50% 0 50%;
  transform: rotate(45deg);
  background: var(--ink);
  pointer-events: none;
}
</style>
