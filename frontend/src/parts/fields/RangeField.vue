<script setup lang="ts">
// The range, typed or let go of.
import { computed } from 'vue'
import { useBench } from '../../state/bench'
import { useSelection } from '../../state/selection'
import { useSession } from '../../state/session'
import TypedField from './TypedField.vue'

const session = useSession()
const selection = useSelection()
const bench = useBench()
const range = computed(() => selection.range)
/** From where the first of the chosen regions starts to where the last one ends. */
const spanned = computed(() => {
  const chosen = selection.regions.flatMap((id) => session.regions.get(id)?.region ?? [])
  if (!chosen.length) return null
  return { start: Math.min(...chosen.map((r) => r.start)), end: Math.max(...chosen.map((r) => r.start + r.length)) }
})
const isSpanned = computed(() => range.value?.start === spanned.value?.start && range.value?.end === spanned.value?.end)

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
      <button v-if="spanned && !isSpanned" class="link soft" type="button" @click="selection.range = spanned">
        the chosen {{ selection.regions.length > 1 ? 'regions' : 'region' }}
      </button>
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
      <button v-if="spanned" class="link soft" type="button" @click="selection.range = spanned">
        the chosen {{ selection.regions.length > 1 ? 'regions' : 'region' }}
      </button>
    </span>
  </div>
</template>
