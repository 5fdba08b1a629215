<script setup lang="ts">
// The overview ribbon: how busy each bar of the session is, and the window of bars on view.
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { follow } from '../dragging'
import { useBench } from '../state/bench'
import { useSession } from '../state/session'
import { LEFT, positionText } from './geometry'

const session = useSession()
const bench = useBench()
const ribbon = ref<HTMLElement | null>(null)

/** Each bar of the session: how busy it is, and with which inks. */
const bars = computed(() => {
  const data = session.data
  if (!data) return []
  const inks = Object.entries(data.activity)
  const totals = data.bars.map((_, i) => inks.reduce((sum, [, counts]) => sum + (counts[i] ?? 0), 0))
  const most = Math.log1p(Math.max(...totals, 1))
  return data.bars.map((bar, i) => {
    const tall = (Math.log1p(totals[i]!) / most) * 70
    return {
      number: bar.number,
      left: (bar.beat / data.length) * 100,
      width: (((data.bars[i + 1]?.beat ?? data.length) - bar.beat) / data.length) * 100,
      parts: inks
        .map(([ink, counts]) => ({ ink, height: totals[i] ? ((counts[i] ?? 0) / totals[i]) * tall : 0 }))
        .filter((part) => part.height > 0),
    }
  })
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
  const width = bench.view.end - bench.view.start
  const at = beatAt(event)
  const inside = at >= bench.view.start && at <= bench.view.end
  const grip = inside ? at - bench.view.start : width / 2
  const move = (next: PointerEvent) => {
    const start = beatAt(next) - grip
    bench.show({ start, end: start + width })
  }
  move(event)
  follow(event, { move })
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
      <div
        v-for="bar in bars"
        :key="bar.number"
        class="bar"
        :style="{ left: `${bar.left}%`, width: `calc(${bar.width}% - 1px)` }"
      >
        <i v-for="part in bar.parts" :key="part.ink" :class="`ink-${part.ink}`" :style="{ height: `${part.height}%` }" />
      </div>
      <div ref="frame" class="window" :style="{ width: `${width}px` }" />
    </div>
    <span class="soft">{{ bars.length }} bars</span>
  </div>
</template>

<style scoped>
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
.bar {
  position: absolute;
  top: 0;
  bottom: 4px;
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
  min-width: 1px;
  pointer-events: none;
}
.bar i {
  background: currentcolor;
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
