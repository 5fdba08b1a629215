<script setup lang="ts">
// The overview ribbon: how busy each bar of the session is, and the window of bars on view.
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { follow } from '../lib/dragging'
import { useBench } from '../state/bench'
import { useSession } from '../state/session'
import { useTidying } from '../state/tidying'
import { LEFT } from '../lib/geometry'
import { positionText } from '../lib/said'
import { counted } from '../lib/words'

const session = useSession()
const bench = useBench()
const tidying = useTidying()
const ribbon = ref<HTMLElement | null>(null)

/** A path for each ink: in every bar a block as tall as the bar is busy with it; one element an ink, not one a bar. */
const paths = computed(() => {
  const data = session.data
  if (!data) return []
  const inks = Object.entries(data.activity)
  const totals = data.bars.map((_, i) => inks.reduce((sum, [, counts]) => sum + (counts[i] ?? 0), 0))
  const most = Math.log1p(Math.max(...totals, 1))
  const foot = data.bars.map(() => 100)
  const ends = data.bars.map((_, i) => data.bars[i + 1]?.beat ?? data.length)
  return inks.map(([ink, counts]) => ({
    ink,
    d: data.bars.map((bar, i) => block(bar.beat, ends[i]!, counts[i] ?? 0, i)).join(''),
  }))

  function block(start: number, end: number, count: number, i: number): string {
    if (!count) return ''
    const tall = (count / totals[i]!) * (Math.log1p(totals[i]!) / most) * 70
    foot[i]! -= tall
    return `M${start},${foot[i]!}H${end - (end - start) * 0.1}v${tall}H${start}z`
  }
})
const frame = ref<HTMLElement | null>(null)
const width = computed(() => Math.max(Math.min((bench.view.end - bench.view.start) / bench.length, 1) * bench.plotWidth, 4))
/** Moved by hand: panning moves it at every frame, and there is nothing else to render. */
function moveFrame(): void {
  if (frame.value) frame.value.style.transform = `translateX(${(bench.view.start / bench.length) * bench.plotWidth}px)`
}
onMounted(moveFrame)
watch([() => bench.view, () => bench.length, () => bench.plotWidth], () => requestAnimationFrame(moveFrame))

function beatAt(event: PointerEvent): number {
  const box = ribbon.value!.getBoundingClientRect()
  return ((event.clientX - box.left) / box.width) * bench.length
}

function take(event: PointerEvent): void {
  if (event.button !== 0 || !ribbon.value) return
  const before = bench.view
  const width = before.end - before.start
  const at = beatAt(event)
  const inside = at >= bench.view.start && at <= bench.view.end
  const grip = inside ? at - bench.view.start : width / 2
  const move = (next: PointerEvent) => {
    const start = beatAt(next) - grip
    bench.show({ start, end: start + width })
  }
  move(event)
  follow(event, { move, giveUp: () => bench.show(before) })
}

function byKey(event: KeyboardEvent): void {
  const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (!way) return
  event.preventDefault()
  event.stopPropagation()
  bench.pan(((bench.view.end - bench.view.start) / 8) * way)
}

/** Said once the window has come to rest. */
const spoken = ref({ now: 0, text: '' })
let resting = 0
watch(
  [() => bench.view, () => session.data],
  ([view, data]) => {
    window.clearTimeout(resting)
    const said = () => data && `${positionText(view.start, data.bars)} to ${positionText(view.end, data.bars)}`
    resting = window.setTimeout(() => (spoken.value = { now: view.start, text: said() ?? '' }), 120)
  },
  { immediate: true },
)
onBeforeUnmount(() => window.clearTimeout(resting))
</script>

<template>
  <div class="overview">
    <div
      ref="ribbon"
      class="ribbon"
      role="slider"
      tabindex="0"
      aria-label="Bars on view"
      :aria-valuetext="spoken.text"
      aria-valuemin="0"
      :aria-valuemax="bench.length"
      :aria-valuenow="spoken.now"
      :style="{ marginLeft: `${LEFT}px`, width: `${bench.plotWidth}px` }"
      @pointerdown="take"
      @keydown="byKey"
    >
      <svg :viewBox="`0 0 ${bench.length} 100`" preserveAspectRatio="none" aria-hidden="true">
        <path v-for="path in paths" :key="path.ink" :class="`ink-${path.ink}`" :d="path.d" />
        <rect
          v-for="(mark, n) in tidying.marks"
          :key="n"
          class="mark"
          :x="mark.start"
          y="0"
          :width="mark.end - mark.start"
          height="12"
        />
      </svg>
      <div ref="frame" class="window" :style="{ width: `${width}px` }" />
    </div>
    <span class="soft">{{ counted(session.data?.bars.length ?? 0, 'bar') }}</span>
  </div>
</template>

<style scoped>
.mark {
  fill: var(--fresh);
}
.overview {
  display: flex;
  align-items: center;
  height: 34px;
  background: var(--sheet);
  border-bottom: 1px solid var(--line);
}
.ribbon {
  position: relative;
  height: 34px;
  cursor: grab;
  touch-action: none;
  flex: none;
}
svg {
  position: absolute;
  top: 0;
  width: 100%;
  height: 30px;
  pointer-events: none;
}
path {
  fill: currentcolor;
  opacity: 0.42;
}
.window {
  position: absolute;
  top: 1px;
  bottom: 1px;
  left: 0;
  will-change: transform;
  border: 2px solid var(--ink);
  border-radius: 3px;
  pointer-events: none;
}
.overview span {
  padding-left: 8px;
  font-size: 12px;
  white-space: nowrap;
}
</style>
