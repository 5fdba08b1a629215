<script setup lang="ts">
// Retime: a range or whole lanes stretched to another length, shifted by beats or milliseconds, or run backwards.
import { computed, watch } from 'vue'
import { setUp } from '../state/setUps'
import type { AnyRequest } from '../api/client'
import { usePreviewOf } from '../state/preview'
import { useSelection } from '../state/selection'
import { useWorksheet } from '../state/worksheet'
import ChoiceField from '../parts/fields/ChoiceField.vue'
import LanesField from '../parts/fields/LanesField.vue'
import NumberField from '../parts/fields/NumberField.vue'
import RangeField from '../parts/fields/RangeField.vue'
import TypedField from '../parts/fields/TypedField.vue'

type Retime = Extract<AnyRequest, { verb: 'retime' }>
const selection = useSelection()
const worksheet = useWorksheet()
const way = setUp<Retime['way']>('retime.way', 'stretch')
const factor = setUp('retime.factor', 1)
const length = setUp<{ beats: number; text: string } | null>('retime.length', null)
const by = setUp('retime.by', { beats: 0, text: '0 beats' })
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
const written = computed(() => {
  const { start, end } = selection.range ?? { start: 0, end: 0 }
  return length.value?.text ?? `${+((end - start) * factor.value).toFixed(3)} beats`
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
      <ChoiceField v-model="way" data-field="way" of="retime/way" bare asks="How to retime" />
      <template v-if="way === 'stretch'">
        <div class="field" data-field="length">
          <span>To</span>
          <span class="pair">
            <NumberField label="How many times as long" :value="+factor.toFixed(6)" :usual="1" @read="stretch" />
            times its length
          </span>
        </div>
        <p class="factors" data-field="length">
          <button v-for="f in FACTORS" :key="f.name" class="link soft" type="button" @click="stretch(f.factor)">
            {{ f.name }}
          </button>
        </p>
        <div v-if="selection.range" class="field" data-field="length">
          <span>or to a length of</span>
          <TypedField
            label="New length"
            kind="length"
            :text="written"
            :start="selection.range.start"
            @read="(beats, text) => (length = { beats, text })"
          />
        </div>
        <ChoiceField v-model="worksheet.following" data-field="following" of="retime/following" />
      </template>
      <template v-else-if="way === 'shift'">
        <div class="field" data-field="by">
          <span>Later by</span>
          <TypedField
            label="Later by"
            kind="shift"
            :text="by.text"
            :usual="{ number: 0, text: '0 beats' }"
            :start="selection.range?.start"
            @read="(beats, text) => (by = { beats, text })"
          />
        </div>
        <div class="field" data-field="by">
          <span>and by</span>
          <span class="pair"
            ><NumberField label="Milliseconds later" :value="milliseconds" :usual="0" @read="(n) => (milliseconds = n)" />
            ms</span
          >
        </div>
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
