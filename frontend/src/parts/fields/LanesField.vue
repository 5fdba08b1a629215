<script setup lang="ts">
// Which lanes a verb works on: the chosen ones, by name.
import { computed } from 'vue'
import { useBench } from '../../state/bench'
import { useSelection } from '../../state/selection'
import { useSession } from '../../state/session'
import PickList from './PickList.vue'

defineProps<{ label: string; first?: boolean }>()
const session = useSession()
const selection = useSelection()
const bench = useBench()
const options = computed(() => (session.data?.lanes ?? []).map((x) => ({ value: x.id, label: session.laneName(x.id) })))

/** Choose every lane of the tracks the chosen lanes belong to. */
function all(): void {
  const tracks = new Set(selection.lanes.map((id) => session.lanes.get(id)?.track))
  selection.lanes = (session.data?.lanes ?? []).filter((x) => tracks.has(x.track)).map((x) => x.id)
}

/** Choose every lane on the bench. */
function pinned(): void {
  selection.lanes = bench.pins.flatMap((p) => (session.lanesOf.get(p) ?? []).map((x) => x.id))
}
</script>

<template>
  <div class="field">
    <span class="pair">
      {{ first ? 'Lane' : 'Lanes' }}
      <button
        v-if="selection.lanes.length && !first"
        class="link soft"
        type="button"
        title="Choose all lanes of these tracks"
        @click="all"
      >
        all of the track
      </button>
      <button v-if="!first" class="link soft" type="button" title="Choose every lane on the bench" @click="pinned">
        all pinned
      </button>
    </span>
    <PickList
      v-model="selection.lanes"
      :options="options"
      :label="label"
      placeholder="drag over a strip"
      no-match-text="No lane is called that"
    />
  </div>
</template>

<style scoped>
.field .el-select {
  width: 186px;
}
</style>
