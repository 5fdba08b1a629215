<script setup lang="ts">
// Raise: lift or lower a range of lanes, with ramps outside it; inside the shape is kept.
import { computed, ref } from 'vue'
import type { AnyRequest } from '../api/client'
import { useSelection } from '../state/selection'
import { useBench } from '../state/bench'
import { usePreviewOf } from '../state/preview'
import { useSession } from '../state/session'
import { useWorksheet } from '../state/worksheet'
import LanesField from './LanesField.vue'
import RangeField from './RangeField.vue'
import TypedField from './TypedField.vue'
import Chooser from '../Chooser.vue'

const session = useSession()
const worksheet = useWorksheet()
const bench = useBench()
const selection = useSelection()
const amount = ref('2')
const before = ref({ length: 0, text: '0 ms' })
const after = ref({ length: 0, text: '0 ms' })

/** The units of the chosen lanes; lanes of other units than the chosen one stay. */
const units = computed(() => [
  ...new Set(
    selection.lanes.flatMap((id) => {
      const parameter = session.parameters.get(session.lanes.get(id)?.parameter ?? '')?.parameter
      return parameter?.kind === 'continuous' ? [parameter.axis.unit] : []
    }),
  ),
])
const wanted = ref<string | null>(null)
const unit = computed(() => (wanted.value !== null && units.value.includes(wanted.value) ? wanted.value : (units.value[0] ?? '')))
const number = computed(() => Number(amount.value.replace('−', '-').replace(',', '.')))
const request = computed<AnyRequest | null>(() => {
  if (!selection.lanes.length || !selection.range || !amount.value.trim() || !Number.isFinite(number.value)) return null
  const { start, end } = selection.range
  const ramps = { before: before.value.length, after: after.value.length }
  return { verb: 'raise', lanes: selection.lanes, start, end, amount: number.value, unit: unit.value, ...ramps }
})
const draft = computed<AnyRequest>(() => {
  const { start, end } = selection.range ?? { start: 0, end: bench.length }
  const ramps = { before: before.value.length, after: after.value.length }
  const by = Number.isFinite(number.value) ? number.value : 0
  return { verb: 'raise', lanes: selection.lanes, start, end, amount: by, unit: unit.value, ...ramps }
})
usePreviewOf(request, undefined, draft)
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset>
      <legend>From</legend>
      <LanesField data-field="lanes" label="Lanes to raise" />
      <RangeField data-field="start end" />
    </fieldset>
    <fieldset>
      <legend>How</legend>
      <div class="field" data-field="amount unit">
        <label for="raise-amount">Raise by</label>
        <span class="pair"
          ><input id="raise-amount" v-model="amount" class="words" autocomplete="off" />
          <Chooser
            v-if="units.length > 1"
            label="Unit to raise in"
            :model-value="unit"
            :options="units.map((u) => ({ value: u, label: u || 'plain numbers' }))"
            :upwards="worksheet.folded"
            @update:model-value="(u) => (wanted = u)"
          />
          <template v-else>{{ unit }}</template></span
        >
      </div>
      <p v-if="amount.trim() && !Number.isFinite(number)" class="problem" role="alert">
        “{{ amount }}” is not a number. Expected: 4, -1.5
      </p>
      <div class="field" data-field="before">
        <span>Ramp before the range</span>
        <TypedField
          label="Ramp before"
          kind="length"
          :text="before.text"
          :start="selection.range?.start ?? 0"
          @read="(length, text) => (before = { length, text })"
        />
      </div>
      <div class="field" data-field="after">
        <span>Ramp after it</span>
        <TypedField
          label="Ramp after"
          kind="length"
          :text="after.text"
          :start="selection.range?.end ?? 0"
          @read="(length, text) => (after = { length, text })"
        />
      </div>
    </fieldset>
  </form>
</template>
