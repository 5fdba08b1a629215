<script setup lang="ts">
// Carry: which lanes, over which bars, to which tracks, where, and how. Every field is exact and typed.
import { computed, ref, watch } from 'vue'
import type { AnyRequest } from '../api/client'
import { positionText } from '../bench/geometry'
import { useBench } from '../state/bench'
import { usePreviewOf } from '../state/preview'
import { useSession } from '../state/session'
import KeepField from './KeepField.vue'
import LanesField from './LanesField.vue'
import RangeField from './RangeField.vue'
import TypedField from './TypedField.vue'

const session = useSession()
const bench = useBench()

const targets = ref<string[]>([])
const at = ref<number | null>(null)
const how = ref<'copy' | 'move'>('copy')
const edges = ref<'seal' | 'ramp'>('seal')
const rampText = ref('80 ms')
const ramp = ref<number | null>(null)
const times = ref<number | string>(1)
const missing = ref<'leave out' | 'add'>('leave out')
const every = ref({ length: 0, text: 'back to back' })

const again = bench.takeReopened('carry')
if (again) {
  targets.value = again.targets
  at.value = again.at ?? null
  how.value = again.how
  edges.value = again.edges
  ramp.value = again.ramp || null
  rampText.value = `${again.ramp} beats`
  times.value = again.times
  missing.value = again.missing
  if (again.every) every.value = { length: again.every, text: `${again.every} beats` }
}

const bars = computed(() => session.data?.bars ?? [])
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
    times: Math.max(Math.round(Number(times.value)) || 1, 1),
    every: Number(times.value) > 1 && every.value.length ? every.value.length : null,
    missing: missing.value,
    set_to_read: false,
  }
})
usePreviewOf(request)
watch(
  () => session.tracks,
  (tracks) => {
    const left = targets.value.filter((id) => tracks.has(id))
    if (left.length !== targets.value.length) targets.value = left
  },
)

function pos(beat: number): string {
  return positionText(beat, bars.value)
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
  <form class="form" @submit.prevent>
    <fieldset>
      <legend>From</legend>
      <LanesField label="Lanes to carry" />
      <RangeField />
      <KeepField v-model="how" />
      <div class="field">
        <span>What is missing there</span>
        <ElRadioGroup v-model="missing" size="small" aria-label="What is missing there">
          <ElRadioButton value="leave out">leave out</ElRadioButton>
          <ElRadioButton value="add">add it</ElRadioButton>
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
        <label for="carry-times">How often</label>
        <span class="pair">
          <input id="carry-times" v-model="times" class="words narrow" type="number" min="1" max="1000">
          <template v-if="Number(times) > 1">
            every
            <TypedField label="How far apart" kind="length" :text="every.text" :start="at ?? range?.start ?? 0" @read="(length, text) => (every = { length, text })" />
          </template>
          <span v-else class="soft">once</span>
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
