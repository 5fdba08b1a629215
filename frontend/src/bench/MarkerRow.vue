<script setup lang="ts">
// The markers over the ruler's bars: gone to, dragged, named and removed; a double click between two takes the range from one to the next.
import { computed, nextTick, ref } from 'vue'
import type { MarkerOut } from '../api/client'
import { pressed } from '../state/keys'
import { useOneStop } from '../state/oneStop'
import { useBench } from '../state/bench'
import { useHolding } from '../state/holding'
import { usePreview } from '../state/preview'
import { toggled, useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { useWorksheet } from '../state/worksheet'
import type { View } from '../lib/geometry'
import { adds, DRAG } from './hands/hand'

const LEAST = 4 // pixels between two that are drawn apart
const NAMED = 26 // pixels that a name needs to say anything
const props = defineProps<{ reach: View; xAt: (beat: number) => number; beatOf: (event: MouseEvent) => number }>()

const session = useSession()
const bench = useBench()
const selection = useSelection()
const worksheet = useWorksheet()
const preview = usePreview()
const hold = useHolding()
const row = ref<HTMLElement | null>(null)
useOneStop(row)

/** The markers as they are, or as what is asked for would leave them. */
const markers = computed(() => preview.change?.markers ?? session.data?.markers ?? [])
const known = computed(() => new Map((session.data?.markers ?? []).map((m) => [m.id, m])))
const drawn = computed(() => {
  const seen: { marker: MarkerOut; x: number; wide: number; fresh: boolean }[] = []
  const near = markers.value.filter((m) => m.at >= props.reach.start && m.at <= props.reach.end)
  for (const marker of near) {
    const x = props.xAt(marker.at)
    const last = seen.at(-1)
    const was = known.value.get(marker.id)
    const fresh = !was || was.at !== marker.at || was.name !== marker.name || was.cue !== marker.cue
    // What a hand holds is drawn wherever it comes to stand: with its element its drag would end.
    if (last && x - last.x < LEAST && !fresh && !selection.markers.includes(marker.id)) continue
    if (last) last.wide = Math.min(last.wide, x - last.x - 2)
    seen.push({ marker, x, wide: 240, fresh })
  }
  return seen
})

function choose(id: string, event: MouseEvent): void {
  selection.markers = adds(event) ? toggled(selection.markers, id) : [id]
  bench.cursor = known.value.get(id)?.at ?? bench.cursor
}

/** Chosen ones move together by as much as the one that is held. */
function take(marker: MarkerOut, event: PointerEvent): void {
  event.stopPropagation()
  const held = selection.markers.includes(marker.id) ? [...selection.markers] : [marker.id]
  hold(event, {
    from: DRAG,
    gone: () => (known.value.has(marker.id) ? null : `The marker ${marker.called}, which was held, is no longer there`),
    move: (next) => {
      const at = known.value.get(marker.id)?.at ?? marker.at
      return { verb: 'change markers', markers: held, by: props.beatOf(next) - at, at: null, name: null, cue: null }
    },
    click: () => choose(marker.id, event),
  })
}

/** The range from the marker before a place to the one after it; without any, a place for a first one. */
function takeBetween(event: MouseEvent): void {
  const beat = props.beatOf(event)
  bench.cursor = beat
  const at = (session.data?.markers ?? []).map((m) => m.at)
  if (!at.length) {
    worksheet.verb = 'markers'
    return
  }
  const start = Math.max(0, ...at.filter((x) => x <= beat))
  const end = Math.min(bench.length, ...at.filter((x) => x > beat))
  if (start < end) selection.range = { start, end }
}

defineExpose({ takeBetween })

/** Its name, ready to be typed over. */
function rename(marker: MarkerOut): void {
  selection.markers = [marker.id]
  bench.cursor = marker.at
  worksheet.verb = 'markers'
  void nextTick(() => {
    if (worksheet.folded) worksheet.editing = 'name'
    void nextTick(() => document.querySelector<HTMLInputElement>('#marker-name')?.select())
  })
}

function key(event: KeyboardEvent, marker: MarkerOut): void {
  const chosen = selection.markers.includes(marker.id) ? selection.markers : [marker.id]
  const done = pressed(event, {
    'remove points': () => session.apply({ verb: 'remove markers', markers: chosen }),
  })
  if (event.key === 'Enter') {
    rename(marker)
    event.preventDefault()
  }
  if (done || event.key === 'Enter') event.stopPropagation()
}
</script>

<template>
  <div ref="row" class="markers" role="group" aria-label="Markers">
    <button
      v-for="one in drawn"
      :key="one.marker.id"
      class="marker"
      :class="{ on: selection.markers.includes(one.marker.id), cue: one.marker.cue, fresh: one.fresh }"
      :style="{ left: `${one.x}px`, maxWidth: `${Math.max(one.wide, 3)}px` }"
      :aria-label="`${one.marker.cue ? 'Cue' : 'Marker'} ${one.marker.called}, ${session.position(one.marker.at)}`"
      :aria-pressed="selection.markers.includes(one.marker.id)"
      :title="one.marker.called"
      @pointerdown="take(one.marker, $event)"
      @dblclick.stop="rename(one.marker)"
      @keydown="key($event, one.marker)"
    >
      <bdi v-if="one.wide >= NAMED">{{ one.marker.name }}</bdi>
    </button>
  </div>
</template>

<style scoped>
.markers {
  position: absolute;
  top: 0;
  left: 0;
  width: 100%;
  height: 15px;
}
.marker {
  position: absolute;
  top: 0;
  height: 14px;
  min-width: 3px;
  padding: 0 5px 0 4px;
  overflow: hidden;
  border: 0;
  border-left: 3px solid var(--ink);
  background: transparent;
  color: var(--ink);
  font: 11px/14px var(--sans);
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: grab;
  touch-action: none;
}
.marker.cue {
  border-left-style: double;
}
.marker:hover {
  background: var(--sand-deep);
}
.marker.on {
  background: var(--ink);
  color: var(--sheet);
}
.marker.fresh {
  border-left-color: var(--fresh);
  color: var(--fresh);
}
</style>
