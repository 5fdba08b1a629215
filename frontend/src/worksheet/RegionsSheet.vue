<script setup lang="ts">
// Regions: move, copy, repeat, cut, join, name, mute, remove and make them; their automation goes along as is said.
import NoteField from '../parts/NoteField.vue'
import { computed, ref, watch } from 'vue'
import { api, asked, csrfToken, refusal, sentence, type AnyRequest } from '../api/client'
import { useBench } from '../state/bench'
import { useSelection } from '../state/selection'
import { usePreview, usePreviewOf } from '../state/preview'
import { useSession } from '../state/session'
import { setUp } from '../state/setUps'
import { counted } from '../lib/words'
import ChoiceButtons from '../parts/fields/ChoiceButtons.vue'
import ChoiceField from '../parts/fields/ChoiceField.vue'
import PickList from '../parts/fields/PickList.vue'
import RangeField from '../parts/fields/RangeField.vue'
import RegionsField from '../parts/fields/RegionsField.vue'
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
const every = setUp('regions.every', { length: 0, text: 'back to back' })
const seam = setUp<number | null>('regions.seam', null)
const name = setUp('regions.name', '')
const rest = setUp<'goes' | 'stays'>('regions.rest', 'stays')
const container = setUp('regions.container', true)
const takeOver = setUp('regions.takeOver', true)
const loaded = ref<AnyRequest | null>(null)
const unread = ref('')

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
    every: repeats && every.value.length ? every.value.length : null,
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

async function load(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  const id = session.data?.id
  if (!file || id === undefined) return
  const body = new FormData()
  body.append('file', file)
  const call = {
    params: { path: { id }, query: { track: track.value, at: bench.cursor } },
    body: body as never,
    bodySerializer: () => body,
    headers: { 'X-CSRFToken': csrfToken() },
  }
  try {
    loaded.value = (await asked(api.POST('/api/sessions/{id}/container', call))).request
    unread.value = ''
  } catch (error) {
    unread.value = sentence(refusal(error))
    loaded.value = null
  }
}
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
        <div class="field" data-field="at">
          <span>{{ what === 'repeat' ? 'As from' : 'Starting at' }}</span>
          <span class="pair">
            <TypedField
              label="Regions starting at"
              kind="position"
              :text="session.position(held ?? at ?? first)"
              @read="(beat) => (at = beat)"
            />
            <span v-if="(held ?? at) === null" class="soft">same place</span>
            <button v-else class="link soft" type="button" @click="at = null">same place</button>
            <button class="link soft" type="button" @click="at = bench.cursor">the cursor</button>
          </span>
        </div>
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
              @read="(length, text) => (every = { length, text })"
            />
          </span>
        </div>
        <div class="field" data-field="targets">
          <span>To tracks</span>
          <PickList
            v-model="targets"
            :options="trackOptions"
            label="Tracks for the regions"
            placeholder="their own"
            no-match-text="No track is called that"
          />
        </div>
        <ChoiceField
          v-model="automation"
          data-field="automation"
          of="carry regions/automation"
          asks="Automation of the regions"
        />
        <div class="field" data-field="under missing">
          <span>The track’s, under them</span>
          <span class="pair">
            <ChoiceButtons v-model="under" of="carry regions/under" asks="Track automation under the regions" />
            <ElCheckbox
              v-if="targets.length"
              :model-value="missing === 'add'"
              label="add what is missing"
              size="small"
              @change="missing = missing === 'add' ? 'leave out' : 'add'"
            />
          </span>
        </div>
      </template>
      <div v-else-if="what === 'cut'" class="field" data-field="at">
        <span>At</span>
        <span class="pair">
          <TypedField
            label="Cut at"
            kind="position"
            :text="session.position(seam ?? bench.cursor)"
            @read="(beat) => (seam = beat)"
          />
          <button v-if="seam !== null" class="link soft" type="button" @click="seam = null">the cursor</button>
          <span v-else class="soft">the cursor</span>
        </span>
      </div>
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
      <ChoiceField
        v-else-if="what === 'remove'"
        v-model="rest"
        data-field="automation"
        of="remove regions/automation"
        asks="Automation of removed regions"
      />
      <template v-else-if="what === 'file'">
        <div class="field">
          <span>Save one as a file</span>
          <a
            v-if="chosen.length === 1 && chosen[0]!.region.lanes"
            class="link"
            :href="`/api/sessions/${session.data?.id}/export/container/${encodeURIComponent(selection.regions[0]!)}`"
            download
            >save {{ chosen[0]!.region.name }}</a
          >
          <span v-else class="soft">choose one region with lanes</span>
        </div>
        <div class="field">
          <label for="container-file">Load one onto {{ session.tracks.get(track)?.name }}, at the cursor</label>
          <input id="container-file" type="file" accept=".json" @change="load" />
        </div>
        <p v-if="unread" class="problem" role="alert">{{ unread }}</p>
      </template>
      <template v-if="what === 'name' || what === 'make'">
        <div class="field" data-field="name">
          <label for="region-name">Name</label>
          <input id="region-name" v-model="name" class="words long" maxlength="300" autocomplete="off" />
        </div>
      </template>
      <template v-if="what === 'make'">
        <ChoiceField
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
.form .long {
  width: 26ch;
}
#container-file {
  font: 12px var(--sans);
  width: 190px;
}
</style>
