<script setup lang="ts">
// Which regions a verb works on: the chosen ones, by track, name and place.
import { computed } from 'vue'
import { useBench } from '../state/bench'
import { useSession } from '../state/session'
import PickList from './PickList.vue'

defineProps<{ label: string }>()
const session = useSession()
const bench = useBench()
const options = computed(() =>
  [...session.regions].map(([id, { track, region }]) => ({
    value: id,
    label: `${track.name}: ${region.name} at ${session.position(region.start)}`,
  })),
)

/** Choose every region of the tracks of those that are chosen, or of the chosen lanes' tracks. */
function all(): void {
  const own = bench.regions.map((id) => session.regions.get(id)?.track.id)
  const tracks = new Set(own.length ? own : bench.chosen.map((id) => session.lanes.get(id)?.track))
  bench.regions = [...session.regions].filter(([, r]) => tracks.has(r.track.id)).map(([id]) => id)
}
</script>

<template>
  <div class="field">
    <span class="pair">
      Regions
      <button
        v-if="bench.regions.length || bench.chosen.length"
        class="link soft"
        type="button"
        title="Choose every region of the track"
        @click="all"
      >
        all of the track
      </button>
    </span>
    <PickList
      v-model="bench.regions"
      :options="options"
      :label="label"
      placeholder="choose regions"
      no-match-text="No region is called that"
    />
  </div>
</template>

<style scoped>
.field .el-select {
  width: 214px;
}
</style>
