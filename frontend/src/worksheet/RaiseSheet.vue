<script setup lang="ts">
// Raise: lift or lower a range of lanes, with ramps outside it; inside the shape is kept.
import { computed, ref } from 'vue'
import type { AnyRequest } from '../api/client'
import { useSelection } from '../state/selection'
import { usePreviewOf } from '../state/preview'
import { useSession } from '../state/session'
import LanesField from './LanesField.vue'
import RangeField from './RangeField.vue'
import TypedField from './TypedField.vue'

const session = useSession()
const selection = useSelection()
const amount = ref('2')
const before = ref({ length: 0, text: '0 ms' })
const after = ref({ length: 0, text: '0 ms' })

const unit = computed(() => {
  const lane = session.lanes.get(selection.lanes[0] ?? '')
  const parameter = lane && session.parameters.get(lane.parameter)?.parameter
  return parameter?.axis.unit ?? ''
})
const number = computed(() => Number(amount.value.replace('−', '-').replace(',', '.')))
const request = computed<AnyRequest | null>(() => {
  if (!selection.lanes.length || !selection.range || !amount.value.trim() || !Number.isFinite(number.value)) return null
  const { start, end } = selection.range
  const ramps = { before: before.value.length, after: after.value.length }
  return { verb: 'raise', lanes: selection.lanes, start, end, amount: number.value, ...ramps }
})
usePreviewOf(request)
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset>
      <legend>From</legend>
      <LanesField label="Lanes to raise" />
      <RangeField />
    </fieldset>
    <fieldset>
      <legend>How</legend>
      <div class="field">
        <label for="raise-amount">Raise by</label>
        <span class="pair"><input id="raise-amount" v-model="amount" class="words" autocomplete="off" /> {{ unit }}</span>
      </div>
      <p v-if="amount.trim() && !Number.isFinite(number)" class="problem" role="alert">
        “{{ amount }}” is not a number. Expected: 4, -1.5
      </p>
      <div class="field">
        <span>Ramp before the range</span>
        <TypedField
          label="Ramp before"
          kind="length"
          :text="before.text"
          :start="selection.range?.start ?? 0"
          @read="(length, text) => (before = { length, text })"
        />
      </div>
      <div class="field">
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
