<script setup lang="ts">
// Where time is while it runs: one upright over ruler and strips, moved along without drawing anything anew.
import { computed } from 'vue'
import { useBench } from '../state/bench'
import { xOf } from './geometry'

const bench = useBench()
const at = computed(() => (bench.playhead === null ? null : xOf(bench.playhead, bench.view, bench.plotWidth)))
const inView = computed(() => bench.playhead !== null && bench.playhead >= bench.view.start && bench.playhead <= bench.view.end)
</script>

<template>
  <div v-if="at !== null && inView" class="playhead" :style="{ transform: `translateX(${at}px)` }" aria-hidden="true" />
</template>

<style scoped>
.playhead {
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
</style>
