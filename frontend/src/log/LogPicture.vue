<script setup lang="ts">
// What a step changed of a lane: before in pencil, after in ink.
import { computed } from 'vue'
import type { Schemas } from '../api/client'

const props = defineProps<{ picture: Schemas['StepPicture'] }>()
const [WIDE, TALL] = [120, 28]

/** Of the lowest and the highest of each column. */
function path(places: number[]): string {
  const rows = Array.from({ length: places.length / 2 }, (_, i) => [places[2 * i]!, places[2 * i + 1]!] as const)
  const y = (v: number) => (TALL - 2 - (v / 100) * (TALL - 4)).toFixed(1)
  const x = (i: number) => ((i / rows.length) * WIDE).toFixed(1)
  let last = rows[0]?.[0] ?? 0
  return rows
    .map(([low, high], i) => {
      const [first, second] = Math.abs(last - low) < Math.abs(last - high) ? [low, high] : [high, low]
      last = second
      return `${i ? 'L' : 'M'}${x(i)} ${y(first)}L${x(i + 1)} ${y(second)}`
    })
    .join('')
}
const before = computed(() => path(props.picture.before))
const after = computed(() => path(props.picture.after))
</script>

<template>
  <svg :width="WIDE" :height="TALL" :viewBox="`0 0 ${WIDE} ${TALL}`" aria-hidden="true">
    <path class="before" :d="before" fill="none" stroke="currentColor" stroke-dasharray="3 2" />
    <path :class="`ink-${picture.ink}`" :d="after" fill="none" stroke="currentColor" stroke-width="1.4" />
  </svg>
</template>

<style scoped>
svg {
  display: block;
  flex: none;
}
.before {
  color: var(--soft);
}
</style>
