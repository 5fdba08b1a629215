<script setup lang="ts">
// A strip's points in the window as a list, for who does not see the picture; made once nothing has changed for a while.
import { onBeforeUnmount, ref, watch } from 'vue'
import type { Curve, LaneOut, ParameterOut } from '../api/client'
import { useBench } from '../state/bench'
import { useSession } from '../state/session'
import { counted } from '../lib/words'
import { valueText } from '../lib/said'

const props = defineProps<{ lanes: LaneOut[]; parameter: ParameterOut; curves: Map<string, Curve>; version: number }>()
const session = useSession()
const bench = useBench()
const MOST = 40
const RESTS = 500 // ms
const lines = ref<string[]>([])
let timer = 0

function list(): void {
  const { start, end } = bench.view
  const all = props.lanes.flatMap((lane) => {
    const curve = props.curves.get(lane.id)
    if (!curve) return []
    if (!curve.beats.length && lane.points) return [`${counted(lane.points, 'point')}: zoom in to have them listed`]
    const where = lane.home_name ? ` in ${lane.home_name}` : ''
    return curve.beats.flatMap((beat, i) => {
      if (beat < start || beat > end) return []
      const value = valueText(props.parameter, curve.values[i]!)
      return [`Point ${curve.first + i + 1} of ${lane.points}${where}, bar ${session.position(beat)}, ${value}`]
    })
  })
  lines.value = all.length > MOST ? [...all.slice(0, MOST), `and ${all.length - MOST} more to the right`] : all
}
watch(
  () => [bench.view, props.version, props.lanes],
  () => {
    window.clearTimeout(timer)
    timer = window.setTimeout(list, RESTS)
  },
  { immediate: true },
)
onBeforeUnmount(() => window.clearTimeout(timer))
</script>

<template>
  <ol class="out-of-sight" aria-label="Points in the window">
    <li v-for="line in lines" :key="line">{{ line }}</li>
    <li v-if="!lines.length">No points in the window</li>
  </ol>
</template>
