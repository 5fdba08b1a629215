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

const bars = computed(() => {
  const data = session.data
  if (!data) return []
  const most = Math.log1p(Math.max(...data.activity, 1))
  return data.bars.map((bar, i) => ({
    number: bar.number,
    left: (bar.beat / data.length) * 100,
    width: (((data.bars[i + 1]?.beat ?? data.length) - bar.beat) / data.length) * 100,
    height: (Math.log1p(data.activity[i] ?? 0) / most) * 100,
  }))
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
      <i
        v-for="bar in bars"
        :key="bar.number"
        :style="{ left: `${bar.left}%`, width: `calc(${bar.width}% - 1px)`, height: `${bar.height * 0.7}%` }"
      />
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
.ribbon i {
  position: absolute;
  bottom: 4px;
  background: #cbbfa4;
  pointer-events: none;
  min-width: 1px;
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
