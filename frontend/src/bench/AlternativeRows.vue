<script setup lang="ts">
// The alternatives of a strip, as thin rows under it, on its own scale: used, heard, laid over, or a range of one taken.
import { computed } from 'vue'
import type { AlternativeOut, Curve } from '../api/client'
import { follow } from '../lib/dragging'
import { beatAt, fitScale, LEFT, RIGHT, snapped, xOf, type Scale } from '../lib/geometry'
import { lineOf } from '../lib/line'
import { momentText } from '../lib/moments'
import { useAlternatives, ROW } from '../state/alternatives'
import { useBench } from '../state/bench'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { inkOf } from '../state/content'

const props = defineProps<{ parameterId: string; stop: number }>()
const session = useSession()
const bench = useBench()
const selection = useSelection()
const alternatives = useAlternatives()
const rows = computed(() => alternatives.rowsOf(props.parameterId))
const parameter = computed(() => session.parameters.get(props.parameterId)!.parameter)
const ink = computed(() => inkOf(parameter.value))
const wide = computed(() => bench.plotWidth + LEFT + RIGHT)

/** The rows' scale: what the lanes and all alternatives reach, so that they can be held against each other. */
const scale = computed<Scale>(() => {
  const curves = rows.value.flatMap((one) => alternatives.curves.get(one.id) ?? [])
  const values = curves.flatMap((c) => [...c.values, ...c.lows, ...c.highs])
  const lanes = session.lanesOf.get(props.parameterId) ?? []
  const lows = [...lanes.map((lane) => lane.low), ...(values.length ? [Math.min(...values)] : [])]
  const highs = [...lanes.map((lane) => lane.high), ...(values.length ? [Math.max(...values)] : [])]
  return fitScale(parameter.value, lows, highs, 3, ROW - 3)
})
function path(curve: Curve): string {
  const { xs, ys } = lineOf(curve, { view: bench.view, width: bench.plotWidth, height: ROW }, scale.value)
  return xs.map((x, i) => `${i ? 'L' : 'M'}${x.toFixed(1)} ${ys[i]!.toFixed(1)}`).join('')
}
const paths = computed(() => {
  const found = new Map<string, string>()
  for (const one of rows.value) {
    const curve = alternatives.curves.get(one.id)
    if (curve) found.set(one.id, path(curve))
  }
  return found
})
/** Where a range of a row is, in pixels: what it was kept for. */
function about({ start, end }: AlternativeOut) {
  if (start === null || end === null) return null
  const [a, b] = [start, end].map((beat) => xOf(beat, bench.view, bench.plotWidth)) as [number, number]
  return { left: `${a}px`, width: `${Math.max(b - a, 1)}px` }
}

/** A drag on a row takes that range of it: it is previewed, and applied on the worksheet. */
function press(event: PointerEvent, one: AlternativeOut): void {
  if (session.readOnly || (event.target as Element).closest('button')) return
  const row = event.currentTarget as HTMLElement
  const box = row.getBoundingClientRect()
  const { bars, length } = session.data!
  const at = (next: PointerEvent) => {
    const beat = beatAt(next.clientX - box.left, bench.view, bench.plotWidth)
    return snapped(beat, next.altKey ? 'off' : bench.grid, bars, length)
  }
  const from = at(event)
  const before = { range: selection.range, lanes: selection.lanes }
  follow(event, {
    from: 4,
    move: (next) => {
      const to = at(next)
      if (to !== from) selection.range = { start: Math.min(from, to), end: Math.max(from, to) }
    },
    giveUp: () => Object.assign(selection, before),
    drop: (dragged) => {
      if (!dragged) return
      selection.lanes = (session.lanesOf.get(props.parameterId) ?? []).map((lane) => lane.id)
      alternatives.ask('take', [one.id])
    },
  })
}
</script>

<template>
  <ol class="rows" :aria-label="`Alternatives of ${session.parameterName(parameterId)}`">
    <li
      v-for="one in rows"
      :key="one.id"
      class="row"
      :class="{ used: one.used }"
      :data-alternative="one.id"
      :style="{ height: `${ROW}px` }"
      @pointerdown="press($event, one)"
    >
      <span v-if="about(one)" class="about" :style="about(one)!" />
      <svg :width="wide" :height="ROW" :viewBox="`0 0 ${wide} ${ROW}`" :class="`ink-${ink}`" aria-hidden="true">
        <path v-if="paths.has(one.id)" :d="paths.get(one.id)" fill="none" stroke="currentColor" stroke-width="1.2" />
      </svg>
      <span class="words">
        <b class="name" :title="one.name">{{ one.name }}</b>
        <span class="soft number">{{ momentText(one.kept) }}</span>
        <span v-if="one.used" class="soft">in use</span>
        <template v-else-if="!session.readOnly">
          <button class="link" :tabindex="stop" :aria-label="`Use ${one.name}`" @click="alternatives.use([one.id])">use</button>
          <button class="link" :tabindex="stop" :aria-label="`Hear ${one.name}`" @click="alternatives.hear(one)">hear</button>
        </template>
        <button
          class="link"
          :tabindex="stop"
          :aria-pressed="alternatives.over[parameterId] === one.id"
          :aria-label="`Lay ${one.name} over the curve`"
          title="Draw it over the strip’s curve, in pencil"
          @click="alternatives.layOver(one)"
        >
          over
        </button>
        <button
          v-if="!session.readOnly"
          class="link soft"
          :tabindex="stop"
          :aria-label="`Rename ${one.name}`"
          @click="alternatives.ask('rename', [one.id])"
        >
          rename
        </button>
        <button
          v-if="!session.readOnly"
          class="link soft"
          :tabindex="stop"
          :aria-label="`Let ${one.name} go`"
          @click="alternatives.ask('remove', [one.id])"
        >
          let go
        </button>
      </span>
    </li>
  </ol>
</template>

<style scoped>
.rows {
  position: absolute;
  inset: auto 0 0;
  overflow: hidden auto;
  border-top: 1px solid var(--line);
  background: var(--paper);
}
.row {
  position: relative;
  overflow: hidden;
  border-bottom: 1px solid var(--line);
  cursor: crosshair;
  touch-action: none;
  user-select: none;
}
.row svg {
  position: absolute;
  inset: 0;
  pointer-events: none;
}
.about {
  position: absolute;
  inset-block: 0;
  background: var(--sand);
}
.words {
  position: absolute;
  inset: 4px auto auto 12px;
  display: flex;
  gap: 12px;
  max-width: calc(100% - 90px);
  padding-right: 8px;
  font-size: 12px;
  line-height: 15px;
  white-space: nowrap;
  background: color-mix(in srgb, var(--paper) 86%, transparent);
}
.name {
  overflow: hidden;
  max-width: 34ch;
  font-weight: 500;
  text-overflow: ellipsis;
}
.row.used .name {
  font-weight: 700;
}
/* What is done seldom comes where the pointer or the focus is. */
.row:not(:hover, :focus-within) .soft.link {
  visibility: hidden;
}
</style>
