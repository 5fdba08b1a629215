<script setup lang="ts">
// Where time is while it runs, and where the pointer is: uprights over ruler and strips, moved along without drawing anything anew.
import { computed } from 'vue'
import { useBench } from '../state/bench'
import { xOf } from '../lib/geometry'

const bench = useBench()
/** Where a beat stands, if it is on view. */
function at(beat: number | null): { transform: string } | null {
  if (beat === null || beat < bench.view.start || beat > bench.view.end) return null
  return { transform: `translateX(${xOf(beat, bench.view, bench.plotWidth)}px)` }
}
const time = computed(() => at(bench.playhead))
const pointer = computed(() => at(bench.hover))
</script>

<template>
  <div v-if="time" class="upright time" :style="time" aria-hidden="true" />
  <div v-if="pointer" class="upright pointer" :style="pointer" aria-hidden="true" />
</template>

<style scoped>
.upright {
  position: absolute;
  z-index: 4;
  top: 34px;
  bottom: 0;
  left: -1px;
  width: 2px;
  background: var(--ink);
  pointer-events: none;
  will-change: transform;
}
/* Time that runs is broken, with a mark of its own on the ruler: the cursor stands still, and is whole. */
.time {
  background: repeating-linear-gradient(var(--ink) 0 7px, transparent 7px 11px);
}
.time::before {
  content: '';
  position: absolute;
  top: 33px;
  left: -5px;
  border: 6px solid transparent;
  border-top-color: var(--ink);
}
.pointer {
  width: 1px;
  opacity: 0.35;
}
</style>
