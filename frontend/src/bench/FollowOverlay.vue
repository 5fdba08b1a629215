<script setup lang="ts">
// On a strip that is driven: the source's silhouette, the detector's curve in pencil, and the threshold, to be dragged.
import { computed } from 'vue'
import { follow } from '../lib/dragging'
import { LEFT, RIGHT, xOf } from '../lib/geometry'
import { useBench } from '../state/bench'
import { useFollowing } from '../state/following'
import { HEAD } from '../state/paper'

const props = defineProps<{ height: number; stop: number }>()
const bench = useBench()
const following = useFollowing()
const FOOT = 10
const wide = computed(() => bench.plotWidth + LEFT + RIGHT)
const y = (place: number) => HEAD + (1 - place) * (props.height - HEAD - FOOT)
const placeOf = (at: number) => 1 - (at - HEAD) / (props.height - HEAD - FOOT)

/** The corners of a row of columns. */
function corners(places: number[]): [number, number][] {
  const { start, end } = following.drawn!
  return places.map((place, i) => {
    const beat = start + ((i + 0.5) / places.length) * (end - start)
    return [xOf(beat, bench.view, bench.plotWidth), y(place)]
  })
}
const line = (some: [number, number][]) => some.map(([x, at], i) => `${i ? 'L' : 'M'}${x.toFixed(1)} ${at.toFixed(1)}`).join('')
const silhouette = computed(() => {
  const some = following.drawn ? corners(following.drawn.levels) : []
  if (!some.length) return ''
  return `M${some[0]![0]} ${y(0)}${line(some).replace('M', 'L')}L${some.at(-1)![0]} ${y(0)}Z`
})
const eased = computed(() => (following.drawn ? line(corners(following.drawn.eased)) : ''))
/** In the source's unit, from the place on the strip. */
const levelAt = (place: number) => following.drawn!.low + place * (following.drawn!.high - following.drawn!.low)
const rule = computed(() => {
  const { drawn, held } = following
  if (!drawn || drawn.threshold === null) return null
  const place = held === null ? drawn.threshold : (held - drawn.low) / (drawn.high - drawn.low)
  return place < 0 || place > 1 ? null : y(place)
})
const said = computed(() => {
  const { drawn, held, request } = following
  return drawn ? `${(held ?? request?.threshold ?? 0).toFixed(1).replace('-', '−')} ${drawn.unit}` : ''
})

function press(event: PointerEvent): void {
  event.stopPropagation()
  const box = (event.currentTarget as HTMLElement).parentElement!.getBoundingClientRect()
  const at = (next: PointerEvent) => Math.min(Math.max(placeOf(next.clientY - box.top), 0), 1)
  follow(event, {
    move: (next) => (following.held = Math.round(levelAt(at(next)) * 10) / 10),
    giveUp: () => (following.held = null),
    drop: () => {
      if (following.held !== null) following.setThreshold(following.held)
      following.held = null
    },
  })
}
function key(event: KeyboardEvent): void {
  const step = { ArrowUp: 1, ArrowDown: -1 }[event.key]
  if (!step || !following.request) return
  event.preventDefault()
  event.stopPropagation()
  following.setThreshold(following.request.threshold + step * (event.shiftKey ? 3 : event.altKey ? 0.1 : 1))
}
</script>

<template>
  <div v-if="following.drawn" class="over" :style="{ height: `${height}px` }">
    <svg :width="wide" :height="height" aria-hidden="true">
      <path class="silhouette" :d="silhouette" />
      <path class="eased" :d="eased" fill="none" stroke="currentColor" stroke-width="1.2" />
    </svg>
    <div
      v-if="rule !== null"
      class="rule"
      role="slider"
      aria-label="Threshold"
      aria-orientation="vertical"
      :tabindex="stop"
      :aria-valuenow="following.held ?? following.request?.threshold"
      :aria-valuetext="said"
      :aria-valuemin="following.drawn.low"
      :aria-valuemax="following.drawn.high"
      :style="{ top: `${rule - 5}px`, left: `${LEFT}px`, right: `${RIGHT}px` }"
      @pointerdown="press"
      @keydown="key"
    >
      <span class="number">{{ said }}</span>
    </div>
  </div>
</template>

<style scoped>
.over {
  position: absolute;
  inset: 0 0 auto;
  overflow: hidden;
  pointer-events: none;
}
.silhouette {
  fill: var(--sand-deep);
  opacity: 0.45;
}
.eased {
  color: var(--soft);
  opacity: 0.55;
}
.rule {
  position: absolute;
  height: 11px;
  cursor: ns-resize;
  pointer-events: auto;
  touch-action: none;
}
.rule::before {
  content: '';
  position: absolute;
  inset: 5px 0 auto;
  border-top: 1px dashed var(--ink);
}
.rule span {
  position: absolute;
  right: 4px;
  bottom: 6px;
  font-size: 12px;
}
</style>
