<script setup lang="ts">
// Picked points, or a range of lanes, to one value, to their mean, or rounded to a step.
import { computed } from 'vue'
import Setting from '../../parts/fields/Setting.vue'
import { setUp } from '../../state/setUps'
import type { AnyRequest } from '../../api/client'
import { usePreviewOf } from '../../state/preview'
import { useReshaping } from '../../state/reshaping'
import { useSelection } from '../../state/selection'
import { counted } from '../../lib/words'
import LanesField from '../../parts/fields/LanesField.vue'
import RangeField from '../../parts/fields/RangeField.vue'

type Same = Extract<AnyRequest, { verb: 'same values' }>
const selection = useSelection()
const reshaping = useReshaping()
const to = setUp<Same['to']>('same values.to', 'mean')
const text = setUp('same values.text', '')
const step = setUp('same values.step', 1)
const onPoints = computed(() => selection.pointCount > 0)
const unit = computed(() => (reshaping.units.size === 1 ? [...reshaping.units.values()][0]!.unit : ''))
const draft = computed<Same>(() => ({
  verb: 'same values',
  lanes: onPoints.value ? [] : selection.lanes,
  start: onPoints.value ? null : (selection.range?.start ?? null),
  end: onPoints.value ? null : (selection.range?.end ?? null),
  picked: selection.pointRows,
  to: to.value,
  text: text.value,
  step: step.value,
}))
const enough = computed(() => (onPoints.value || selection.lanes.length > 0) && (to.value !== 'value' || !!text.value.trim()))
usePreviewOf(
  computed(() => (enough.value ? draft.value : null)),
  () => (to.value === 'value' && !text.value.trim() && selection.lanes.length ? 'Type the value.' : ''),
  draft,
)
</script>

<template>
  <fieldset>
    <legend>What</legend>
    <p v-if="onPoints">
      <b>{{ counted(selection.pointCount, 'picked point') }}</b>
      <button class="link soft" type="button" @click="selection.points = {}">let go of them</button>
    </p>
    <template v-else>
      <LanesField data-field="lanes" label="Lanes to make the same" />
      <RangeField data-field="start end" />
    </template>
  </fieldset>
  <fieldset>
    <legend>How</legend>
    <Setting v-model="to" of="same values/to" bare asks="What they become" />
    <Setting v-if="to === 'value'" v-model="text" of="same values/text" data-field="to" asks="The value" none="-6 dB" />
    <Setting v-if="to === 'step'" v-model="step" of="same values/step" data-field="to" asks="Step" :unit="unit" />
  </fieldset>
</template>
