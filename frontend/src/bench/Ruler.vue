<script setup lang="ts">
// The ruler: bars and seconds over the strips, the range's two flags, and the cursor's handle.
import { computed } from 'vue'
import { useBench } from '../state/bench'
import { useSession } from '../state/session'
import { barStride, beatAt, clockText, positionText, snapped, xOf } from './geometry'

const session = useSession()
const bench = useBench()

const marks = computed(() => {
  const { bars } = bench
  const stride = barStride(bars, bench.view, bench.plotWidth)
  return bars
    .filter((b) => (b.number - 1) % stride === 0 && b.beat >= bench.view.start - 1e-9 && b.beat <= bench.view.end)
    .map((b) => ({ number: b.number, x: xOf(b.beat, bench.view, bench.plotWidth), seconds: clockText(b.beat, session.data!.clock) }))
})

function inView(beat: number): boolean {
  return beat >= bench.view.start - 1e-9 && beat <= bench.view.end + 1e-9
}
function x(beat: number): string {
  return `${xOf(beat, bench.view, bench.plotWidth)}px`
}

function beatOf(event: PointerEvent, host: HTMLElement): number {
  const beat = beatAt(event.clientX - host.getBoundingClientRect().left, bench.view, bench.plotWidth)
  const grid = event.altKey ? 'off' : bench.grid
  return snapped(beat, grid, session.data?.bars ?? [], session.data?.length ?? 0)
}

function drag(event: PointerEvent, move: (beat: number) => void): void {
  if (event.button !== 0) return
  const target = event.currentTarget as HTMLElement
  const host = target.closest<HTMLElement>('.ruler')!
  target.setPointerCapture(event.pointerId)
  const follow = (next: PointerEvent) => move(beatOf(next, host))
  target.addEventListener('pointermove', follow)
  target.addEventListener('pointerup', () => target.removeEventListener('pointermove', follow), { once: true })
}

function placeCursor(event: PointerEvent): void {
  bench.cursor = beatOf(event, event.currentTarget as HTMLElement)
  drag(event, (beat) => (bench.cursor = beat))
}

function moveEdge(edge: 'start' | 'end', beat: number): void {
  const range = bench.range
  if (!range) return
  if (edge === 'start' && beat < range.end) bench.range = { ...range, start: beat }
  if (edge === 'end' && beat > range.start) bench.range = { ...range, end: beat }
}

function nudgeEdge(edge: 'start' | 'end', event: KeyboardEvent): void {
  const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (!way || !bench.range) return
  event.preventDefault()
  event.stopPropagation()
  const step = event.altKey ? 0.01 : 1
  moveEdge(edge, Math.min(Math.max(bench.range[edge] + way * step, 0), bench.length))
}
</script>

<template>
  <div class="ruler" @pointerdown="placeCursor">
    <div v-for="mark in marks" :key="mark.number" class="mark number" :style="{ left: `${mark.x}px` }">
      <span>{{ mark.number }}</span><small>{{ mark.seconds.slice(0, -4) }}</small>
    </div>
    <template v-if="bench.range && session.data">
      <button
        v-for="edge in (['start', 'end'] as const)" v-show="inView(bench.range[edge])" :key="edge"
        class="flag" :class="edge" :style="{ left: x(bench.range[edge]) }"
        :aria-label="`Range ${edge}, ${positionText(bench.range[edge], session.data.bars)}. Arrow keys move it.`"
        @pointerdown.stop="drag($event, (beat) => moveEdge(edge, beat))" @keydown="nudgeEdge(edge, $event)"
      />
    </template>
    <i v-show="inView(bench.cursor)" class="cursor" :style="{ left: x(bench.cursor) }" />
  </div>
</template>

<style scoped>
.ruler { position: relative; height: 30px; border-bottom: 1px solid var(--ink); background: var(--sheet); cursor: text; overflow: hidden; user-select: none; touch-action: none; }
.mark { position: absolute; top: 0; height: 100%; padding: 2px 0 0 4px; border-left: 1px solid var(--line); font-size: 12px; line-height: 13px; color: var(--ink); pointer-events: none; }
.mark span, .mark small { display: block; }
.mark small { color: var(--soft); font-size: 10px; }
.flag { position: absolute; bottom: 0; width: 14px; height: 14px; padding: 0; border: 0; background: var(--ink); cursor: ew-resize; touch-action: none; }
.flag.start { clip-path: polygon(0 0, 100% 0, 0 100%); }
.flag.end { clip-path: polygon(0 0, 100% 0, 100% 100%); transform: translateX(-100%); }
.cursor { position: absolute; bottom: -1px; width: 9px; height: 9px; margin-left: -4px; border-radius: 50% 50% 0 50%; transform: rotate(45deg); background: var(--ink); pointer-events: none; }
</style>
