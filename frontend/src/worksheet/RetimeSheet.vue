<script setup lang="ts">
// Retime: a range or whole lanes stretched to another length, shifted by beats or milliseconds, or run backwards.
import { computed, watch } from 'vue'
import { inBeats, type Typed } from '../lib/fields'
import Setting from '../parts/fields/Setting.vue'
import { setUp } from '../state/setUps'
import type { AnyRequest } from '../api/client'
import { usePreviewOf } from '../state/preview'
import { useSelection } from '../state/selection'
import { useWorksheet } from '../state/worksheet'
import LanesField from '../parts/fields/LanesField.vue'
import RangeField from '../parts/fields/RangeField.vue'

type Retime = Extract<AnyRequest, { verb: 'retime' }>
const selection = useSelection()
const worksheet = useWorksheet()
const way = setUp<Retime['way']>('retime.way', 'stretch')
const factor = setUp('retime.factor', 1)
const length = setUp<Typed | null>('retime.length', null)
const by = setUp('retime.by', inBeats(0))
const milliseconds = setUp('retime.milliseconds', 0)
const FACTORS = [
  { factor: 2, name: 'twice' },
  { factor: 1.5, name: 'half as long again' },
  { factor: 2 / 3, name: 'two thirds' },
  { factor: 0.5, name: 'half' },
]
watch(
  () => selection.range,
  () => (length.value = null),
)
const draft = computed<Retime>(() => ({
  verb: 'retime',
  lanes: selection.lanes,
  start: selection.range?.start ?? null,
  end: selection.range?.end ?? null,
  way: way.value,
  factor: factor.value,
  length: way.value === 'stretch' ? (length.value?.beats ?? null) : null,
  following: worksheet.following,
  by: way.value === 'shift' ? by.value.beats : 0,
  milliseconds: way.value === 'shift' ? milliseconds.value : 0,
}))
const asks = computed(
  () =>
    way.value === 'backwards' ||
    (way.value === 'stretch' ? length.value !== null || factor.value !== 1 : by.value.beats !== 0 || milliseconds.value !== 0),
)
usePreviewOf(
  computed(() => (selection.lanes.length && asks.value ? draft.value : null)),
  () => (selection.lanes.length && !asks.value && way.value === 'shift' ? 'Type how far.' : ''),
  draft,
)
function stretch(to: number): void {
  length.value = null
  factor.value = to
}
/** The length it gets, typed or by the factor. */
const written = computed<Typed>({
  get() {
    const { start, end } = selection.range ?? { start: 0, end: 0 }
    return length.value ?? inBeats(+((end - start) * factor.value).toFixed(3))
  },
  set: (typed) => (length.value = typed),
})
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset>
      <legend>What</legend>
      <LanesField data-field="lanes" label="Lanes to retime" />
      <RangeField data-field="start end" />
    </fieldset>
    <fieldset>
      <legend>How</legend>
      <Setting v-model="way" of="retime/way" bare asks="How to retime" />
      <template v-if="way === 'stretch'">
        <Setting
          :model-value="+factor.toFixed(6)"
          of="retime/factor"
          data-field="length"
          asks="How many times as long"
          @update:model-value="stretch"
        />
        <p class="factors" data-field="length">
          <button v-for="f in FACTORS" :key="f.name" class="link soft" type="button" @click="stretch(f.factor)">
            {{ f.name }}
          </button>
        </p>
        <Setting v-if="selection.range" v-model="written" of="retime/length" asks="New length" :start="selection.range.start" />
        <Setting v-model="worksheet.following" of="retime/following" />
      </template>
      <template v-else-if="way === 'shift'">
        <Setting v-model="by" of="retime/by" :start="selection.range?.start" />
        <Setting v-model="milliseconds" of="retime/milliseconds" data-field="by" asks="Milliseconds later" />
        <p class="soft">
          A length, such as 1/8, 2 bars or 0.5 s; with − in front it is earlier. What is left behind holds the value before it.
        </p>
      </template>
    </fieldset>
  </form>
</template>

<style scoped>
.factors {
  display: flex;
  gap: 10px;
}
</style>
