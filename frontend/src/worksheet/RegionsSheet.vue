<script setup lang="ts">
// Regions: move, copy, repeat, cut, join, name, mute, remove and make them; their automation goes along as is said.
import NoteField from '../parts/NoteField.vue'
import { computed, ref, watch } from 'vue'
import type { AnyRequest } from '../api/client'
import { useBench } from '../state/bench'
import { useSelection } from '../state/selection'
import { usePreview, usePreviewOf } from '../state/preview'
import { useSession } from '../state/session'
import type { Typed } from '../lib/fields'
import Setting from '../parts/fields/Setting.vue'
import SpotField from '../parts/fields/SpotField.vue'
import { setUp } from '../state/setUps'
import { counted } from '../lib/words'
import ChoiceField from '../parts/fields/ChoiceField.vue'
import RangeField from '../parts/fields/RangeField.vue'
import RegionsField from '../parts/fields/RegionsField.vue'
import RegionFile from './regions/RegionFile.vue'
import NumberField from '../parts/fields/NumberField.vue'
import TypedField from '../parts/fields/TypedField.vue'

type What = 'move' | 'copy' | 'repeat' | 'cut' | 'join' | 'name' | 'mute' | 'remove' | 'make' | 'file'
const WHATS: What[] = ['move', 'copy', 'repeat', 'cut', 'join', 'name', 'mute', 'remove', 'make', 'file']
const session = useSession()
const selection = useSelection()
const bench = useBench()
const preview = usePreview()
const what = setUp<What>('regions.what', 'move')
const at = setUp<number | null>('regions.at', null)
const targets = setUp<string[]>('regions.targets', [])
const automation = setUp<'with' | 'without' | 'alone'>('regions.automation', 'with')
const under = setUp<'stays' | 'goes along'>('regions.under', 'stays')
const missing = setUp<'leave out' | 'add'>('regions.missing', 'leave out')
const filling = setUp('regions.filling', false)
const times = setUp('regions.times', 1)
const until = setUp<number | null>('regions.until', null)
const every = setUp<Typed>('regions.every', { beats: 0, text: 'back to back' })
const seam = setUp<number | null>('regions.seam', null)
const name = setUp('regions.name', '')
const rest = setUp<'goes' | 'stays'>('regions.rest', 'stays')
const container = setUp('regions.container', true)
const takeOver = setUp('regions.takeOver', true)
const loaded = ref<AnyRequest | null>(null)

const chosen = computed(() => selection.regions.flatMap((id) => session.regions.get(id) ?? []))
const first = computed(() => (chosen.value.length ? Math.min(...chosen.value.map((x) => x.region.start)) : bench.cursor))
const last = computed(() => Math.max(...chosen.value.map((x) => x.region.start + x.region.length), 0))
/** Where a hand on a strip holds them just now. */
const held = computed(() => (preview.gesture?.verb === 'carry regions' ? preview.gesture.at : null))
const muted = computed(() => chosen.value.every((x) => x.region.muted))
const trackOptions = computed(() => (session.data?.tracks ?? []).map((t) => ({ value: t.id, label: t.name })))
/** The track a new region lies on: the chosen lane's, else the chosen region's. */
const track = computed(
  () => session.lanes.get(selection.lanes[0] ?? '')?.track ?? chosen.value[0]?.track.id ?? session.data?.tracks[0]?.id ?? '',
)
const homeLanes = computed(() =>
  selection.lanes.flatMap((id) => session.lanes.get(id) ?? []).filter((x) => x.home === 'track' && x.track === track.value),
)

const setUpFor = setUp('regions.for', '')
watch(
  () => selection.regions.join(),
  (regions) => {
    if (regions === setUpFor.value) return // back on the sheet, with the same regions chosen
    setUpFor.value = regions
    at.value = null
    name.value = chosen.value.length === 1 ? chosen.value[0]!.region.name : ''
  },
  { immediate: true },
)

/** What the sheet says, also where something is missing. */
const draft = computed<AnyRequest | null>(() => {
  const { regions } = selection
  if (what.value === 'file') return loaded.value
  if (what.value === 'make') {
    const range = selection.range ?? { start: 0, end: bench.length }
    const parameters = takeOver.value ? homeLanes.value.map((x) => x.parameter) : []
    return { verb: 'make region', track: track.value, name: name.value, ...range, container: container.value, parameters }
  }
  if (what.value === 'cut') return { verb: 'cut regions', regions, at: seam.value ?? bench.cursor }
  if (what.value === 'join') return { verb: 'join regions', regions }
  if (what.value === 'name') return { verb: 'change regions', regions, name: name.value, muted: null }
  if (what.value === 'mute') return { verb: 'change regions', regions, name: null, muted: !muted.value }
  if (what.value === 'remove') return { verb: 'remove regions', regions, automation: rest.value }
  const repeats = what.value === 'repeat'
  return {
    verb: 'carry regions',
    regions,
    how: what.value,
    at: at.value,
    targets: targets.value,
    times: times.value,
    until: repeats && filling.value ? (until.value ?? bench.length) : null,
    every: repeats && every.value.beats ? every.value.beats : null,
    automation: automation.value,
    under: under.value,
    missing: missing.value,
    set_to_read: false,
  }
})
const request = computed<AnyRequest | null>(() => {
  if (what.value === 'make') return selection.range && track.value && name.value.trim() ? draft.value : null
  if (what.value === 'file') return draft.value
  if (!selection.regions.length || (what.value === 'name' && !name.value.trim())) return null
  const nowhere = at.value === null && !targets.value.length
  return (what.value === 'move' || what.value === 'copy') && nowhere ? null : draft.value
})
const hint = () => {
  if (what.value === 'make') return selection.range ? 'Give it a name.' : 'Drag over a strip to choose where it lies.'
  if (what.value === 'file') return 'Save a region as a file, or load one onto the track.'
  if (!selection.regions.length) return 'Click a region’s name on a strip, or choose one here.'
  return what.value === 'name' ? 'Type a name.' : 'Drag its name on a strip, type where it starts, or choose a track.'
}
usePreviewOf(request, hint, draft)
const going = computed(() => what.value === 'move' || what.value === 'copy' || what.value === 'repeat')
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset>
      <legend>What</legend>
      <ChoiceField
        v-model="what"
        class="whats"
        data-field="what"
        :choices="WHATS.map((w) => ({ value: w, words: w }))"
        bare
        asks="What to do with regions"
      />
      <RegionsField data-field="regions" v-if="what !== 'make'" label="Regions to work on" />
      <RangeField data-field="start end" v-else />
      <p v-if="chosen.length === 1 && what !== 'make'" class="soft hint">
        {{ session.position(first) }} to {{ session.position(last) }}, {{ counted(chosen[0]!.region.lanes, 'lane') }} of its own.
        <button class="link" type="button" @click="bench.lookCloser(selection.regions[0]!)">look closer</button>
        <NoteField about="region" :of="selection.regions[0]!" :called="chosen[0]!.region.name" />
      </p>
    </fieldset>
    <fieldset>
      <legend>How</legend>
      <template v-if="going">
        <SpotField
          v-model="at"
          of="carry regions/at"
          :label="what === 'repeat' ? 'As from' : 'Starting at'"
          asks="Regions starting at"
          :usual="first"
          :held="held"
          none="same place"
          cursor
        />
        <div v-if="what === 'repeat'" class="field" data-field="times until every">
          <ElCheckbox v-model="filling" label="fill up to" size="small" />
          <span class="pair">
            <TypedField
              v-if="filling"
              label="Fill up to"
              kind="position"
              :text="session.position(until ?? bench.length)"
              @read="(beat) => (until = beat)"
            />
            <template v-else
              ><NumberField
                label="How many more"
                :value="times"
                :least="1"
                :most="1000"
                :usual="1"
                whole
                live
                @read="(n) => (times = n)"
              />
              times</template
            >
            every
            <TypedField
              label="How far apart"
              kind="length"
              :text="every.text"
              :start="first"
              @read="(beats, text) => (every = { beats, text })"
            />
          </span>
        </div>
        <Setting
          v-model="targets"
          of="carry regions/targets"
          asks="Tracks for the regions"
          :options="trackOptions"
          none="their own"
        />
        <Setting v-model="automation" of="carry regions/automation" asks="Automation of the regions" />
        <Setting v-model="under" of="carry regions/under" />
        <Setting v-if="targets.length" v-model="missing" of="carry regions/missing" tick />
      </template>
      <SpotField v-else-if="what === 'cut'" v-model="seam" of="cut regions/at" :usual="bench.cursor" none="the cursor" />
      <p v-else-if="what === 'join'" class="soft hint">
        Regions that touch become the first of them. Where one lacks a lane, it takes what is heard there.
      </p>
      <p v-else-if="what === 'mute'" class="soft hint">
        {{
          muted
            ? 'They are muted: applying lets them be heard again.'
            : 'Their lanes fall silent; what runs at the same time in other regions stays.'
        }}
      </p>
      <Setting v-else-if="what === 'remove'" v-model="rest" of="remove regions/automation" asks="Automation of removed regions" />
      <RegionFile v-else-if="what === 'file'" v-model="loaded" :track="track" />
      <template v-if="what === 'name' || what === 'make'">
        <Setting v-model="name" of="make region/name" />
      </template>
      <template v-if="what === 'make'">
        <Setting
          v-model="container"
          data-field="container track"
          of="make region/container"
          :label="`On ${session.tracks.get(track)?.name}, as`"
          asks="What to make"
        />
        <div class="field">
          <ElCheckbox
            v-model="takeOver"
            size="small"
            :label="
              homeLanes.length
                ? `take over ${homeLanes.map((x) => session.parameters.get(x.parameter)?.parameter.name).join(', ')}`
                : 'take over the chosen lanes'
            "
          />
        </div>
      </template>
    </fieldset>
  </form>
</template>

<style scoped>
.whats {
  flex-wrap: nowrap;
}
.whats :deep(.el-radio-button__inner) {
  padding: 5px 7px;
}
.hint {
  padding: 6px 0;
}
</style>
