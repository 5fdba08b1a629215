<script setup lang="ts">
// The overview ribbon: how busy each bar of the session is, and the window of bars on view.
import { computed, ref } from 'vue'
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
const part = computed(() => ({
  left: `${(bench.view.start / bench.length) * 100}%`,
  width: `${Math.min((bench.view.end - bench.view.start) / bench.length, 1) * 100}%`,
}))

function beatAt(event: PointerEvent): number {
  const box = ribbon.value!.getBoundingClientRect()
  return ((event.clientX - box.left) / box.width) * bench.length
}

function take(event: PointerEvent): void {
  if (event.button !== 0 || !ribbon.value) return
  const host = ribbon.value
  host.setPointerCapture(event.pointerId)
  const width = bench.view.end - bench.view.start
  const at = beatAt(event)
  const inside = at >= bench.view.start && at <= bench.view.end
  const grip = inside ? at - bench.view.start : width / 2
  const follow = (next: PointerEvent) => {
    const start = beatAt(next) - grip
    bench.show({ start, end: start + width })
  }
  follow(event)
  host.addEventListener('pointermove', follow)
  host.addEventListener('pointerup', () => host.removeEventListener('pointermove', follow), { once: true })
}

function byKey(event: KeyboardEvent): void {
  const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (!way) return
  event.preventDefault()
  event.stopPropagation()
  bench.pan(((bench.view.end - bench.view.start) / 8) * way)
}

const spoken = computed(() => {
  const data = session.data
  return data ? `${positionText(bench.view.start, data.bars)} to ${positionText(bench.view.end, data.bars)}` : ''
})
</script>

<template>
  <div class="overview">
    <div
      ref="ribbon" class="ribbon" role="slider" tabindex="0" aria-label="Bars on view" :aria-valuetext="spoken"
      aria-valuemin="0" :aria-valuemax="bench.length" :aria-valuenow="bench.view.start"
      :style="{ marginLeft: `${LEFT}px`, width: `${bench.plotWidth}px` }"
      @pointerdown="take" @keydown="byKey"
    >
      <i v-for="bar in bars" :key="bar.number" :style="{ left: `${bar.left}%`, width: `calc(${bar.width}% - 1px)`, height: `${bar.height * 0.7}%` }" />
      <div class="window" :style="part" />
    </div>
    <span class="soft">{{ bars.length }} bars</span>
  </div>
</template>

<style scoped>
.overview { display: flex; align-items: center; height: 34px; background: var(--sheet); border-bottom: 1px solid var(--line); }
.ribbon { position: relative; height: 34px; cursor: grab; touch-action: none; flex: none; }
.ribbon i { position: absolute; bottom: 4px; background: #cbbfa4; pointer-events: none; min-width: 1px; }
.window { position: absolute; top: 1px; bottom: 1px; border: 2px solid var(--ink); border-radius: 3px; pointer-events: none; min-width: 4px; }
.overview span { padding-left: 8px; font-size: 12px; white-space: nowrap; }
</style>
