<script setup lang="ts">
// Lanes moved between their rails: what each unit gets, and the ramps beside the range or the resting values of whole lanes.
import { computed } from 'vue'
import { usePreviewOf } from '../../state/preview'
import { useReshaping } from '../../state/reshaping'
import { useSelection } from '../../state/selection'
import { useSession } from '../../state/session'
import PickList from '../../parts/fields/PickList.vue'
import LanesField from '../../parts/fields/LanesField.vue'
import RangeField from '../../parts/fields/RangeField.vue'
import TypedField from '../../parts/fields/TypedField.vue'
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
    <div class="field" data-field="tracks lanes">
      <span>All levels of</span>
      <PickList
        v-model="reshaping.tracks"
        :options="tracks"
        label="Tracks of which all levels move"
        placeholder="no track besides"
        no-match-text="No track is called that"
      />
    </div>
    <RangeField data-field="start end" />
    <div v-if="!selection.range" class="field" data-field="resting">
      <ElCheckbox v-model="reshaping.resting" label="the resting values too" size="small" />
    </div>
    <template v-else>
      <div class="field" data-field="before">
        <span>Ramp before the range</span>
        <TypedField
          label="Ramp before"
          kind="length"
          :text="reshaping.before.text"
          :start="selection.range.start"
          @read="(length, text) => (reshaping.before = { length, text })"
        />
      </div>
      <div class="field" data-field="after">
        <span>Ramp after it</span>
        <TypedField
          label="Ramp after"
          kind="length"
          :text="reshaping.after.text"
          :start="selection.range.end"
          @read="(length, text) => (reshaping.after = { length, text })"
        />
      </div>
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
