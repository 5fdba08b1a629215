<script setup lang="ts">
// A phrase in its own time: its points dragged, added by a double click, removed by key.
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { bend as bendAt } from '../../lib/geometry'
import { follow } from '../../lib/dragging'

type Point = Schemas['ClipPoint']
const props = defineProps<{ length: number; axis: string; low: number; high: number }>()
const points = defineModel<Point[]>({ required: true })
const W = 520
const H = 120
const AIR = 10
const STEPS = 16 // corners of a bend
const chart = ref<SVGSVGElement | null>(null)
const picked = ref<number | null>(null)

const logarithmic = computed(() => props.axis === 'log')
const up = (value: number) => (logarithmic.value ? Math.log2(Math.max(value, 1e-9)) : value)
const down = (y: number) => (logarithmic.value ? 2 ** y : y)
const reach = computed(() => {
  const ys = [...points.value.map((p) => up(p.value)), up(props.low), up(props.high)]
  const [least, most] = [Math.min(...ys), Math.max(...ys)]
  return { least, span: most - least || 1 }
})
const x = (at: number) => AIR + (at / props.length) * (W - 2 * AIR)
const y = (value: number) => H - AIR - ((up(value) - reach.value.least) / reach.value.span) * (H - 2 * AIR)
const path = computed(() =>
  points.value
    .map((p, i) => {
      const next = points.value[i + 1]
      if (!next) return `${i ? 'L' : 'M'}${x(p.at)} ${y(p.value)}`
      const [a, b] = [up(p.value), up(next.value)]
      const parts =
        p.bend == null ? [0] : Math.abs(p.bend) < 1e-9 ? [0, 1] : Array.from({ length: STEPS + 1 }, (_, n) => n / STEPS)
      const line = parts.map((t) => `${x(p.at + (next.at - p.at) * t)} ${y(down(a + (b - a) * bendAt(t, p.bend ?? 0)))}`)
      const held = p.bend == null ? ` L${x(next.at)} ${y(p.value)}` : ''
      return `${i ? 'L' : 'M'}${line.join(' L')}${held}`
    })
    .join(' '),
)

/** Where the pointer is, in the phrase's time and values. */
function place(event: MouseEvent): { at: number; value: number } {
  const box = chart.value!.getBoundingClientRect()
  const at = (((event.clientX - box.left) / box.width) * W - AIR) / (W - 2 * AIR)
  const part = (H - AIR - ((event.clientY - box.top) / box.height) * H) / (H - 2 * AIR)
  return {
    at: Math.min(Math.max(at, 0), 1) * props.length,
    value: down(reach.value.least + Math.min(Math.max(part, 0), 1) * reach.value.span),
  }
}
function hold(event: PointerEvent, index: number): void {
  picked.value = index
  const before = points.value
  const [earlier, later] = [before[index - 1], before[index + 1]]
  const edge = !earlier || !later
  follow(event, {
    from: 2,
    move: (next) => {
      const to = place(next)
      const at = edge ? before[index]!.at : Math.min(Math.max(to.at, earlier.at + 1e-4), later.at - 1e-4)
      points.value = before.map((p, i) => (i === index ? { ...p, at, value: to.value } : p))
    },
    giveUp: () => (points.value = before),
  })
}
function add(event: MouseEvent): void {
  const to = place(event)
  const index = points.value.findIndex((p) => p.at > to.at)
  if (index < 1 || to.at - points.value[index - 1]!.at < 1e-4) return
  points.value = [...points.value.slice(0, index), { ...to, bend: 0 }, ...points.value.slice(index)]
  picked.value = index
}
function key(event: KeyboardEvent, index: number): void {
  const inner = index > 0 && index < points.value.length - 1
  const step = { ArrowUp: 1, ArrowDown: -1 }[event.key]
  if (step) {
    const value = down(up(points.value[index]!.value) + (step * reach.value.span) / 50)
    points.value = points.value.map((p, i) => (i === index ? { ...p, value } : p))
  } else if ((event.key === 'Delete' || event.key === 'Backspace') && inner) {
    points.value = points.value.filter((_, i) => i !== index)
    picked.value = null
  } else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <svg
    ref="chart"
    :viewBox="`0 0 ${W} ${H}`"
    role="group"
    aria-label="The phrase’s points: drag them, double click to add one, Delete removes one"
    @dblclick="add"
  >
    <path :d="path" fill="none" stroke="currentColor" stroke-width="1.6" />
    <circle
      v-for="(p, i) in points.slice(0, 400)"
      :key="i"
      :cx="x(p.at)"
      :cy="y(p.value)"
      r="4"
      :class="{ on: i === picked }"
      tabindex="0"
      role="button"
      :aria-label="`Point ${i + 1}, ${+p.at.toFixed(3)} beats, ${+p.value.toFixed(3)}`"
      @pointerdown.stop="hold($event, i)"
      @dblclick.stop
      @keydown="key($event, i)"
      @focus="picked = i"
    />
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-width: 520px;
  height: 120px;
  color: var(--level);
  background: var(--sheet);
  border: 1px solid var(--line);
  touch-action: none;
}
circle {
  fill: var(--sheet);
  stroke: currentColor;
  stroke-width: 1.5;
  cursor: grab;
}
circle.on {
  fill: currentColor;
}
</style>
