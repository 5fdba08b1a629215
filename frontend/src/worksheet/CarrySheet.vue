<script setup lang="ts">
// Carry: which lanes, over which bars, to which tracks, where, and how. Every field is exact and typed.
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import type { AnyRequest } from '../api/client'
import { positionText } from '../bench/geometry'
import { useBench } from '../state/bench'
import { usePreview } from '../state/preview'
import { useSession } from '../state/session'
import TypedField from './TypedField.vue'

const session = useSession()
const bench = useBench()
const preview = usePreview()

const targets = ref<string[]>([])
const at = ref<number | null>(null)
const how = ref<'copy' | 'move'>('copy')
const edges = ref<'seal' | 'ramp'>('seal')
const rampText = ref('80 ms')
const ramp = ref<number | null>(null)

const bars = computed(() => session.data?.bars ?? [])
const laneOptions = computed(() => (session.data?.lanes ?? []).map((x) => ({ value: x.id, label: laneName(x.id) })))
function laneName(id: string): string {
  const lane = session.lanes.get(id)
  const owner = lane && session.parameters.get(lane.parameter)
  return owner ? `${owner.track.name} ${owner.parameter.name}${lane.home_name ? ` in ${lane.home_name}` : ''}` : id
}
const sourceTracks = computed(() => new Set(bench.chosen.map((id) => session.lanes.get(id)?.track)))
const trackOptions = computed(() =>
  (session.data?.tracks ?? []).map((t) => ({
    value: t.id,
    label: sourceTracks.value.has(t.id) ? `${t.name} (itself)` : t.name,
  })),
)
const range = computed(() => bench.range)

const request = computed<AnyRequest | null>(() => {
  if (!bench.chosen.length || !targets.value.length) return null
  return {
    verb: 'carry',
    lanes: bench.chosen,
    targets: targets.value,
    start: range.value?.start ?? null,
    end: range.value?.end ?? null,
    at: at.value,
    how: how.value,
    edges: edges.value,
    ramp: edges.value === 'ramp' ? (ramp.value ?? 0) : 0,
    set_to_read: false,
  }
})
watch(request, (next) => (preview.request = next), { immediate: true })
watch(
  () => session.tracks,
  (tracks) => {
    const left = targets.value.filter((id) => tracks.has(id))
    if (left.length !== targets.value.length) targets.value = left
  },
)
onBeforeUnmount(() => preview.clear())

function pos(beat: number): string {
  return positionText(beat, bars.value)
}
function setStart(beat: number): void {
  const end = bench.range?.end ?? session.data!.length
  bench.range = beat < end ? { start: beat, end } : { start: beat, end: Math.min(beat + 4, session.data!.length) }
}
function setEnd(beat: number): void {
  const start = bench.range?.start ?? 0
  if (beat > start) bench.range = { start, end: beat }
}
function setRamp(length: number, text: string): void {
  ramp.value = length
  rampText.value = text
}
watch(edges, (now) => {
  if (now === 'ramp' && ramp.value === null) ramp.value = 0.125
  if (now === 'ramp' && ramp.value === 0.125) rampText.value = '0.125 beats'
})
</script>

<template>
  <form class="carry" @submit.prevent>
    <fieldset>
      <legend>From</legend>
      <div class="field">
        <label for="carry-lanes">Lanes</label>
        <ElSelectV2
          id="carry-lanes" v-model="bench.chosen" :options="laneOptions" multiple filterable collapse-tags collapse-tags-tooltip
          :max-collapse-tags="1" :height="125" :item-height="25" placement="bottom-start" :fallback-placements="['bottom-start']"
          popper-class="low-list" size="small" aria-label="Lanes to carry"
          placeholder="drag over a strip" no-match-text="No lane is called that"
        />
      </div>
      <div class="field">
        <span>Bars</span>
        <span v-if="range" class="pair">
          <TypedField label="Range start" kind="position" :text="pos(range.start)" @read="setStart" />
          to
          <TypedField label="Range end" kind="position" :text="pos(range.end)" @read="setEnd" />
          <button class="link soft" type="button" @click="bench.range = null">whole lane</button>
        </span>
        <span v-else class="pair">
          the whole lane
          <button class="link soft" type="button" @click="bench.range = { start: bench.view.start, end: Math.min(bench.view.end, bench.length) }">the bars on view</button>
        </span>
      </div>
      <div class="field">
        <span>Keep the original</span>
        <ElRadioGroup v-model="how" size="small" aria-label="Keep the original">
          <ElRadioButton value="copy">yes, copy</ElRadioButton>
          <ElRadioButton value="move">no, move</ElRadioButton>
        </ElRadioGroup>
      </div>
    </fieldset>
    <fieldset>
      <legend>To</legend>
      <div class="field">
        <label for="carry-tracks">Tracks</label>
        <ElSelectV2
          id="carry-tracks" v-model="targets" :options="trackOptions" multiple filterable collapse-tags collapse-tags-tooltip
          :max-collapse-tags="1" :height="125" :item-height="25" placement="bottom-start" :fallback-placements="['bottom-start']"
          popper-class="low-list" size="small" aria-label="Tracks to carry to"
          placeholder="choose a track" no-match-text="No track is called that"
        />
      </div>
      <div class="field">
        <span>Starting at</span>
        <span class="pair">
          <TypedField label="Starting at" kind="position" :text="pos(at ?? range?.start ?? 0)" @read="(beat) => (at = beat)" />
          <span v-if="at === null" class="soft">same place</span>
          <button v-else class="link soft" type="button" @click="at = null">same place</button>
          <button v-if="at === null" class="link soft" type="button" @click="at = bench.cursor">the cursor</button>
        </span>
      </div>
      <div class="field">
        <span>At the edges</span>
        <span class="pair">
          <TypedField
            v-if="edges === 'ramp'" label="Ramp length" kind="length" :text="rampText" :start="at ?? range?.start ?? 0"
            @read="setRamp"
          />
          <ElRadioGroup v-model="edges" size="small" aria-label="At the edges">
            <ElRadioButton value="seal">jump</ElRadioButton>
            <ElRadioButton value="ramp">ramp</ElRadioButton>
          </ElRadioGroup>
        </span>
      </div>
    </fieldset>
  </form>
</template>

<style scoped>
.carry { display: grid; grid-template-columns: 1fr 1fr; gap: 0 40px; padding: 8px 16px; align-content: start; }
fieldset { border: 0; margin: 0; padding: 0; min-width: 0; }
legend { color: var(--soft); font-weight: 600; padding: 2px 0 4px; }
.field { display: flex; align-items: center; justify-content: space-between; gap: 12px; min-height: 36px; border-bottom: 1px solid var(--line); }
.field > label, .field > span:first-child { flex: none; }

.field .el-select { width: 262px; }
.pair { display: flex; align-items: center; gap: 8px; }
</style>
