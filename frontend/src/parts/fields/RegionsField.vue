<script setup lang="ts">
// Which regions a verb works on: the chosen ones, by track, name and place.
import { computed } from 'vue'
import { useSelection } from '../../state/selection'
import { useSession } from '../../state/session'
import PickList from './PickList.vue'

defineProps<{ label: string }>()
const session = useSession()
const selection = useSelection()
const options = computed(() =>
  [...session.regions].map(([id, { track, region }]) => ({
    value: id,
    label: `${track.name}: ${region.name} at ${session.position(region.start)}`,
  })),
)

/** Choose every region of the tracks of those that are chosen, or of the chosen lanes' tracks. */
function all(): void {
  const own = selection.regions.map((id) => session.regions.get(id)?.track.id)
  const tracks = new Set(own.length ? own : selection.lanes.map((id) => session.lanes.get(id)?.track))
  selection.regions = [...session.regions].filter(([, r]) => tracks.has(r.track.id)).map(([id]) => id)
}
</script>

<template>
  <div class="field">
    <span class="pair">
      Regions
      <button
        v-if="selection.regions.length || selection.lanes.length"
        class="link soft"
        type="button"
        title="Choose every region of the track"
        @click="all"
      >
        all of the track
      </button>
    </span>
    <PickList
      v-model="selection.regions"
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
