<script setup lang="ts">
// The mapping graph: the source's span along the foot with the time it spends there, the target's range up the side.
import { computed, ref } from 'vue'
import type { ParameterOut } from '../../api/client'
import { follow } from '../../lib/dragging'
import { fromAxis, toAxis } from '../../lib/geometry'
import { valueText } from '../../lib/said'

const props = defineProps<{
  source: ParameterOut
  target: ParameterOut
  from: { low: number; high: number }
  /** Where both ends land: positions in the target's range (0 to 1, beyond where it is left) and values. */
  ends: Record<'low' | 'high', { position: number; value: number }>
  time: number[]
  movable: boolean
}>()
const emit = defineEmits<{ move: [end: 'low' | 'high', value: number] }>()
const SIDE = 128
const X = { low: 58 + 8, high: 58 + SIDE - 8 }
const svg = ref<SVGSVGElement | null>(null)

const y = (position: number) => 8 + (1 - position) * SIDE
const points = computed(() => ({
  low: { x: X.low, y: y(props.ends.low.position) },
  high: { x: X.high, y: y(props.ends.high.position) },
}))
const bars = computed(() => {
  const wide = (X.high - X.low) / Math.max(props.time.length, 1)
  return props.time.map((t, i) => ({ x: X.low + i * wide, width: Math.max(wide - 0.6, 0.6), height: t * SIDE * 0.42 }))
})

function valueAt(position: number): number {
  const { target } = props
  const [a, b] = [toAxis(target, target.low), toAxis(target, target.high)]
  return Number(fromAxis(target, a + Math.min(Math.max(position, 0), 1) * (b - a)).toPrecision(4))
}
function take(end: 'low' | 'high', event: PointerEvent): void {
  if (!props.movable) return
  const { top } = svg.value!.getBoundingClientRect()
  const before = props.ends[end].value
  follow(event, {
    move: (next) => emit('move', end, valueAt(1 - (next.clientY - top - 8) / SIDE)),
    giveUp: () => emit('move', end, before),
  })
}
function nudge(end: 'low' | 'high', event: KeyboardEvent): void {
  const way = { ArrowUp: 1, ArrowDown: -1 }[event.key]
  if (!way || !props.movable) return
  event.preventDefault()
  event.stopPropagation()
  emit('move', end, valueAt(props.ends[end].position + way / 100))
}
</script>

<template>
  <figure>
    <svg
      ref="svg"
      width="206"
      height="156"
      role="img"
      :aria-label="`${source.name} ${valueText(source, from.low)} to ${valueText(source, from.high)} becomes ${target.name} ${valueText(target, ends.low.value)} to ${valueText(target, ends.high.value)}`"
    >
      <clipPath id="mapping-sheet"><rect x="58" y="2" :width="SIDE" :height="SIDE + 12" /></clipPath>
      <rect x="58" y="8" :width="SIDE" :height="SIDE" class="sheet" />
      <path v-for="n in 3" :key="n" :d="`M${58 + (n * SIDE) / 4} 8v${SIDE}M58 ${8 + (n * SIDE) / 4}h${SIDE}`" class="grid" />
      <rect
        v-for="(bar, i) in bars"
        :key="i"
        :x="bar.x"
        :y="8 + SIDE - bar.height"
        :width="bar.width"
        :height="bar.height"
        class="time"
      />
      <path
        :d="`M${points.low.x} ${points.low.y}L${points.high.x} ${points.high.y}`"
        class="line"
        clip-path="url(#mapping-sheet)"
      />
      <template v-for="end in ['low', 'high'] as const" :key="end">
        <text x="52" :y="Math.min(Math.max(points[end].y + 4, 14), SIDE + 8)" class="side">
          {{ valueText(target, ends[end].value) }}
        </text>
        <circle
          v-if="ends[end].position >= -0.001 && ends[end].position <= 1.001"
          :cx="points[end].x"
          :cy="points[end].y"
          :r="movable ? 5.5 : 3"
          :class="{ movable }"
          :tabindex="movable ? 0 : -1"
          role="slider"
          :aria-label="`${end === 'low' ? 'Lowest' : 'Highest'} lands on`"
          :aria-valuetext="valueText(target, ends[end].value)"
          :aria-valuenow="ends[end].value"
          :aria-valuemin="target.low"
          :aria-valuemax="target.high"
          @pointerdown="take(end, $event)"
          @keydown="nudge(end, $event)"
        />
      </template>
      <text x="58" :y="SIDE + 22">{{ valueText(source, from.low) }}</text>
      <text :x="58 + SIDE" :y="SIDE + 22" class="side">{{ valueText(source, from.high) }}</text>
    </svg>
    <figcaption class="soft">{{ source.name }} → {{ target.name }}; bars: time spent</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
figcaption {
  font-size: 11px;
  text-align: center;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.sheet {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1;
}
.grid {
  stroke: var(--quiet-line);
  fill: none;
}
.time {
  fill: var(--sand-deep);
  stroke: none;
}
.line {
  stroke: var(--fresh);
  stroke-width: 2;
  fill: none;
}
circle {
  fill: var(--sheet);
  stroke: var(--fresh);
  stroke-width: 2;
}
circle.movable {
  cursor: ns-resize;
  touch-action: none;
}
text {
  font: 10.5px var(--mono);
  fill: var(--ink);
}
.side {
  text-anchor: end;
}
</style>
