<script setup lang="ts">
// One chart of a comparison: one or two curves over the whole session, each in its own ink and scale.
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Curve, ParameterOut } from '../api/client'
import { drawChart, drawCurve, drawMarkTexts, prepared, readInks, type Box, type Pen } from '../lib/drawing'
import { onFonts } from '../state/fonts'
import { inkOf } from '../state/content'
import { fitScale, LEFT, RIGHT, xOf, type Scale } from '../lib/geometry'
import { useSession } from '../state/session'
import { papers } from '../state/theme'

interface Drawn {
  curve: Curve
  scale: ParameterOut
  ink: 'one' | 'other' | 'difference'
  low: number
  high: number
}
const props = defineProps<{ curves: Drawn[]; title: string; height: number; mark: number }>()
const session = useSession()
const canvas = ref<HTMLCanvasElement | null>(null)
const host = ref<HTMLElement | null>(null)
const width = ref(600)
let sizes: ResizeObserver | null = null

/** Curves of one unit share a scale, so that what is higher is drawn higher. */
const scales = computed<Scale[]>(() => {
  const alike = props.curves.every(
    (c) => c.scale.unit === props.curves[0]!.scale.unit && c.scale.axis === props.curves[0]!.scale.axis,
  )
  return props.curves.map((c) => {
    const within = alike ? props.curves : [c]
    return fitScale(
      c.scale,
      within.map((x) => x.low),
      within.map((x) => x.high),
      8,
      props.height - 8,
    )
  })
})

function draw(): void {
  const element = canvas.value
  const data = session.data
  if (!element || !data) return
  const inks = readInks()
  const plot = width.value - LEFT - RIGHT
  const box: Box = { view: { start: 0, end: data.length }, width: plot, height: props.height }
  const c = prepared(element, width.value, props.height)
  drawChart(c, box, scales.value[0]!, data.bars, inks)
  c.save()
  c.translate(LEFT + plot, 0)
  drawMarkTexts(c, scales.value[0]!, inks)
  c.restore()
  const pens: Record<Drawn['ink'], Partial<Pen>> = {
    one: { color: inks.family[inkOf(props.curves[0]!.scale)] ?? inks.ink, width: 1.8, dash: [] },
    other: { color: inks.pencil, width: 1.4, dash: [5, 3] },
    difference: { color: inks.ink, width: 1.5, dash: [] },
  }
  props.curves.forEach((drawn, i) =>
    drawCurve(c, box, scales.value[i]!, drawn.curve, { points: 'none', ...pens[drawn.ink] } as Pen),
  )
  c.fillStyle = inks.ink
  c.fillRect(Math.round(xOf(props.mark, box.view, plot)), 0, 1, props.height)
}
onMounted(() => {
  sizes = new ResizeObserver(() => {
    width.value = Math.max(host.value?.clientWidth ?? 600, 200)
    draw()
  })
  if (host.value) sizes.observe(host.value)
})
onBeforeUnmount(() => sizes?.disconnect())
onFonts(draw)
watch([papers, () => props.curves, () => props.mark, width], draw)
</script>

<template>
  <figure ref="host">
    <figcaption class="soft">{{ title }}</figcaption>
    <canvas ref="canvas" role="img" :aria-label="title" :style="{ width: `${width}px`, height: `${height}px` }" />
  </figure>
</template>

<style scoped>
figure {
  margin: 0 0 8px;
}
figcaption {
  font-size: 12px;
  padding-left: 12px;
}
canvas {
  display: block;
}
</style>
