<script setup lang="ts">
// Lanes moved between their rails: what each unit gets, and the ramps beside the range or the resting values of whole lanes.
import { computed } from 'vue'
import { usePreviewOf } from '../../state/preview'
import { useReshaping } from '../../state/reshaping'
import { useSelection } from '../../state/selection'
import { useSession } from '../../state/session'
import Setting from '../../parts/fields/Setting.vue'
import LanesField from '../../parts/fields/LanesField.vue'
import RangeField from '../../parts/fields/RangeField.vue'
import UnitMove from './UnitMove.vue'

const session = useSession()
const selection = useSelection()
const reshaping = useReshaping()
const request = computed(() => (selection.lanes.length || reshaping.tracks.length ? reshaping.written : null))
usePreviewOf(
  request,
  () => (request.value && !request.value.moves.length ? 'Pull a rail on the strip, or type an amount.' : ''),
  computed(() => reshaping.written),
)
const tracks = computed(() =>
  (session.data?.tracks ?? [])
    .filter((t) => t.parameters.some((p) => p.family === 'level'))
    .map((t) => ({ value: t.id, label: t.name })),
)
</script>

<template>
  <fieldset>
    <legend>What</legend>
    <LanesField data-field="lanes" label="Lanes to reshape" />
    <Setting
      v-model="reshaping.tracks"
      of="reshape/tracks"
      data-field="tracks lanes"
      asks="Tracks of which all levels move"
      :options="tracks"
      none="no track besides"
    />
    <RangeField data-field="start end" />
    <Setting v-if="!selection.range" v-model="reshaping.resting" of="reshape/resting" tick />
    <template v-else>
      <Setting v-model="reshaping.before" of="reshape/before" asks="Ramp before" :start="selection.range.start" />
      <Setting v-model="reshaping.after" of="reshape/after" asks="Ramp after" :start="selection.range.end" />
    </template>
  </fieldset>
  <fieldset>
    <legend>How</legend>
    <p v-if="!reshaping.units.size" class="soft">
      Choose lanes: what moves in dB, in octaves and in plain numbers is asked apart.
    </p>
    <template v-for="[unit, parameter] in reshaping.units" :key="unit">
      <p v-if="reshaping.units.size > 1" class="lead">
        <b>{{ unit || 'plain numbers' }}</b>
      </p>
      <UnitMove :unit="unit" :parameter="parameter" />
    </template>
  </fieldset>
</template>

<style scoped>
.field .el-select {
  width: 186px;
}
</style>
