<script setup lang="ts">
// The mapping graph: the source's real span along the foot, the target's along the side; its ends can be dragged.
import { computed, ref } from 'vue'
import type { ParameterOut } from '../api/client'
import { fromAxis, toAxis, valueText } from '../bench/geometry'

const props = defineProps<{
  source: ParameterOut
  target: ParameterOut
  from: { low: number; high: number }
  low: number
  high: number
  movable: boolean
}>()
const emit = defineEmits<{ move: [end: 'low' | 'high', value: number] }>()
const SIDE = 118
const X = { low: 58, high: 58 + SIDE * 0.86 }
const svg = ref<SVGSVGElement | null>(null)

function part(value: number): number {
  const { target } = props
  const [a, b] = [toAxis(target, target.low), toAxis(target, target.high)]
  return (toAxis(target, value) - a) / (b - a)
}
const y = (value: number) => 8 + (1 - part(value)) * SIDE
const points = computed(() => ({ low: { x: X.low + 8, y: y(props.low) }, high: { x: X.high, y: y(props.high) } }))

function take(end: 'low' | 'high', event: PointerEvent): void {
  if (!props.movable) return
  const circle = event.currentTarget as Element
  circle.setPointerCapture(event.pointerId)
  const move = (next: Event) => {
    const box = svg.value!.getBoundingClientRect()
    const inside = 1 - Math.min(Math.max(((next as PointerEvent).clientY - box.top - 8) / SIDE, 0), 1)
    const { target } = props
    const [a, b] = [toAxis(target, target.low), toAxis(target, target.high)]
    emit('move', end, Number(fromAxis(target, a + inside * (b - a)).toPrecision(4)))
  }
  circle.addEventListener('pointermove', move)
  circle.addEventListener('pointerup', () => circle.removeEventListener('pointermove', move), { once: true })
}
function nudge(end: 'low' | 'high', event: KeyboardEvent): void {
  const way = { ArrowUp: 1, ArrowDown: -1 }[event.key]
  if (!way || !props.movable) return
  event.preventDefault()
  event.stopPropagation()
  const { target } = props
  const [a, b] = [toAxis(target, target.low), toAxis(target, target.high)]
  const next = Math.min(Math.max(toAxis(target, props[end]) + (way * (b - a)) / 100, a), b)
  emit('move', end, Number(fromAxis(target, next).toPrecision(4)))
}
</script>

<template>
  <figure>
    <svg ref="svg" width="186" height="146" role="img" :aria-label="`${source.name} ${valueText(source, from.low)} to ${valueText(source, from.high)} becomes ${target.name} ${valueText(target, low)} to ${valueText(target, high)}`">
      <rect :x="X.low" y="8" :width="SIDE" :height="SIDE" class="sheet" />
      <path v-for="n in 3" :key="n" :d="`M${X.low + (n * SIDE) / 4} 8v${SIDE}M${X.low} ${8 + (n * SIDE) / 4}h${SIDE}`" class="grid" />
      <path :d="`M${points.low.x} ${points.low.y}L${points.high.x} ${points.high.y}`" class="line" />
      <template v-for="end in (['low', 'high'] as const)" :key="end">
        <text x="52" :y="Math.min(Math.max(points[end].y + 4, 14), 126)" class="side">{{ valueText(target, end === 'low' ? low : high) }}</text>
        <circle
          :cx="points[end].x" :cy="points[end].y" r="5.5" :class="{ movable }" :tabindex="movable ? 0 : -1" role="slider"
          :aria-label="`${end === 'low' ? 'Lowest' : 'Highest'} lands on`" :aria-valuetext="valueText(target, end === 'low' ? low : high)"
          :aria-valuenow="end === 'low' ? low : high" @pointerdown="take(end, $event)" @keydown="nudge(end, $event)"
        />
      </template>
      <text :x="points.low.x" y="141" class="foot">{{ valueText(source, from.low) }}</text>
      <text :x="points.high.x" y="141" class="foot">{{ valueText(source, from.high) }}</text>
    </svg>
  </figure>
</template>

<style scoped>
figure { margin: 0; }
.sheet { fill: var(--sheet); stroke: var(--ink); stroke-width: 1; }
.grid { stroke: var(--quiet-line); fill: none; }
.line { stroke: var(--fresh); stroke-width: 2; fill: none; }
circle { fill: var(--sheet); stroke: var(--fresh); stroke-width: 2; }
circle.movable { cursor: ns-resize; touch-action: none; }
text { font: 10.5px var(--mono); fill: var(--ink); }
.side { text-anchor: end; }
.foot { text-anchor: middle; }
</style>
