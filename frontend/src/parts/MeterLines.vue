<script setup lang="ts">
// A meter: two ruled lines, one a side, as long as the mean and with a stop at the peak; its peak in figures beside it.
import { computed } from 'vue'
import type { Levels } from '../state/listening'

const LOWEST = -60 // dB at the left end
const HIGHEST = 6
const props = defineProps<{
  levels: Levels | null
  width: number
  showsPeak?: boolean
  /** Where it went over full scale, as it is said. */
  over?: string
}>()
const decibels = (size: number) => (size > 0 ? 20 * Math.log10(size) : -Infinity)
const x = (size: number) => Math.min(Math.max((decibels(size) - LOWEST) / (HIGHEST - LOWEST), 0), 1) * props.width
const sides = computed(() => {
  const [a, b, c, d] = props.levels ?? [0, 0, 0, 0]
  return [
    { peak: x(a), mean: x(c), over: a > 1 },
    { peak: x(b), mean: x(d), over: b > 1 },
  ]
})
const peak = computed(() => decibels(Math.max(props.levels?.[0] ?? 0, props.levels?.[1] ?? 0)))
const said = computed(() => (peak.value > LOWEST ? peak.value.toFixed(1).replace('-', '−') : '−∞'))
const label = computed(() => `Peak ${said.value} dB${props.over ? `, over full scale at ${props.over}` : ''}`)
</script>

<template>
  <span class="meter" role="img" :aria-label="label" :title="over ? label : undefined">
    <svg :width="width" height="9" aria-hidden="true">
      <g v-for="(side, i) in sides" :key="i" :class="{ over: side.over }">
        <rect class="whole" x="0" :y="i * 5 + 1" :width="width" height="3" />
        <rect class="mean" x="0" :y="i * 5 + 1" :width="side.mean" height="3" />
        <rect v-if="side.peak > 1" class="peak" :x="side.peak - 1" :y="i * 5" width="2" height="5" />
      </g>
    </svg>
    <i v-if="over" class="mark" aria-hidden="true">over</i>
    <b v-if="showsPeak" class="number" :class="{ over: sides.some((s) => s.over) }">{{ said }}</b>
  </span>
</template>

<style scoped>
.meter {
  display: inline-flex;
  align-items: center;
  gap: 5px;
}
.whole {
  fill: var(--quiet-line);
}
.mean,
.peak {
  fill: var(--ink);
}
.over .mean,
.over .peak {
  fill: var(--fresh);
}
.mark {
  font-size: 11px;
  font-style: normal;
  color: var(--fresh);
}
b {
  min-width: 5ch;
  font-size: 12px;
  font-weight: 400;
  color: var(--soft);
}
b.over {
  color: var(--fresh);
  font-weight: 700;
}
</style>
