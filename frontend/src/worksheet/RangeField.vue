<script setup lang="ts">
// The range, typed or let go of.
import { computed } from 'vue'
import { useBench } from '../state/bench'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import TypedField from './TypedField.vue'

const session = useSession()
const selection = useSelection()
const bench = useBench()
const range = computed(() => selection.range)

function setStart(beat: number): void {
  const end = selection.range?.end ?? bench.length
  selection.range = beat < end ? { start: beat, end } : { start: beat, end: Math.min(beat + 4, bench.length) }
}
function setEnd(beat: number): void {
  const start = selection.range?.start ?? 0
  if (beat > start) selection.range = { start, end: beat }
}
</script>

<template>
  <div class="field">
    <span>Bars</span>
    <span v-if="range" class="pair">
      <TypedField label="Range start" kind="position" :text="session.position(range.start)" @read="setStart" />
      to
      <TypedField label="Range end" kind="position" :text="session.position(range.end)" @read="setEnd" />
      <TypedField
        class="length"
        label="Range length"
        kind="length"
        :text="`${+(range.end - range.start).toFixed(3)} beats`"
        :start="range.start"
        @read="(length) => setEnd(range!.start + length)"
      />
      <button class="link soft" type="button" @click="selection.range = null">whole lane</button>
    </span>
    <span v-else class="pair">
      the whole lane
      <button
        class="link soft"
        type="button"
        @click="selection.range = { start: bench.view.start, end: Math.min(bench.view.end, bench.length) }"
      >
        the bars on view
      </button>
    </span>
  </div>
</template>
