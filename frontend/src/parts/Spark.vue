<script setup lang="ts">
// A lane's small curve: its outline in a few columns.
import { computed } from 'vue'
import type { Picture } from '../api/client'

const props = defineProps<{ picture: Picture; width: number; height: number }>()

/** Each column's low and high are spread over its width, so that slopes look like slopes. */
const path = computed(() => {
  const { lows, highs } = props.picture
  const x = (i: number) => ((i / lows.length) * props.width).toFixed(1)
  const y = (v: number) => (props.height - 1.5 - (v / 100) * (props.height - 3)).toFixed(1)
  // A curve that falls at first starts at the upper end of its first column.
  const falls = (lows[1] ?? 0) < (lows[0] ?? 0)
  let last = (falls ? highs[0] : lows[0]) ?? 0
  let d = ''
  lows.forEach((low, i) => {
    const high = highs[i]!
    const [first, second] = Math.abs(last - low) < Math.abs(last - high) ? [low, high] : [high, low]
    d += `${i ? 'L' : 'M'}${x(i)} ${y(first)}L${x(i + 1)} ${y(second)}`
    last = second
  })
  return d
})
</script>

<template>
  <svg :width="width" :height="height" :viewBox="`0 0 ${width} ${height}`" :class="`ink-${picture.family}`" aria-hidden="true">
    <path :d="path" fill="none" stroke="currentColor" stroke-width="1.2" stroke-linejoin="round" />
  </svg>
</template>

<style scoped>
svg {
  flex: none;
  display: block;
}
</style>
