<script setup lang="ts">
// Carry: which lanes and devices, over which bars, to which tracks, where, and how; the match table says what lands on what.
import { computed, ref, watch } from 'vue'
import { api, asked, type AnyRequest, type Schemas } from '../api/client'
import { useAsking } from '../state/asking'
import { askedOf } from '../state/workedOut'
import { useSelection } from '../state/selection'
import { usePreviewOf } from '../state/preview'
import { useReopened } from '../state/reopened'
import { useSession } from '../state/session'
import Setting from '../parts/fields/Setting.vue'
import SpotField from '../parts/fields/SpotField.vue'
import { inBeats } from '../lib/fields'
import { setUp } from '../state/setUps'
import EdgesField from '../parts/fields/EdgesField.vue'
import GoField from '../parts/fields/GoField.vue'
import KeepField from '../parts/fields/KeepField.vue'
import { allRead } from '../state/reading'
import LanesField from '../parts/fields/LanesField.vue'
import MatchTable from './MatchTable.vue'
import RangeField from '../parts/fields/RangeField.vue'
import RecipeField from '../parts/fields/RecipeField.vue'
import TypedField from '../parts/fields/TypedField.vue'

type Match = Schemas['MatchIO']
const BACK_TO_BACK = { beats: 0, text: 'back to back' }
const session = useSession()
const selection = useSelection()

const targets = setUp<string[]>('carry.targets', [])
const devices = setUp<string[]>('carry.devices', [])
const at = setUp<number | null>('carry.at', null)
const how = setUp<'copy' | 'move' | 'linked'>('carry.how', 'copy')
const edges = setUp<'seal' | 'ramp'>('carry.edges', 'seal')
const ramp = setUp('carry.ramp', inBeats(0.125))
const times = setUp('carry.times', 1)
const missing = setUp<'leave out' | 'add'>('carry.missing', 'leave out')
const every = setUp('carry.every', BACK_TO_BACK)
const matchStatic = setUp('carry.matchStatic', false)
const tableShown = ref(false)
const go = setUp<string | null>('carry.go', null)
/** Back to the sheet, once the server has read what was typed into the table; what it cannot read stays on view. */
async function leaveTable(): Promise<void> {
  if (await allRead()) tableShown.value = false
}
/** What was decided here for a parameter and a track; null goes back to the usual match. */
const decided = setUp<Record<string, Match | null>>('carry.decided', {})

function takeUp(again: Extract<AnyRequest, { verb: 'carry' }>): void {
  targets.value = again.targets
  devices.value = again.devices ?? []
  at.value = again.at ?? null
  how.value = again.linked ? 'linked' : again.how
  edges.value = again.edges
  if (again.ramp) ramp.value = inBeats(again.ramp)
  times.value = again.times
  missing.value = again.missing
  matchStatic.value = again.match_static
  go.value = again.alternative ?? null
  every.value = again.every ? inBeats(again.every) : BACK_TO_BACK
  decided.value = Object.fromEntries((again.matches ?? []).map((m) => [`${m.parameter} ${m.track}`, m]))
}
useReopened('carry', takeUp)

const sourceTracks = computed(() => new Set(selection.lanes.map((id) => session.lanes.get(id)?.track)))
const trackOptions = computed(() =>
  (session.data?.tracks ?? []).map((t) => ({
    value: t.id,
    label: sourceTracks.value.has(t.id) ? `${t.name} (itself)` : t.name,
  })),
)
const deviceOptions = computed(() =>
  (session.data?.tracks ?? [])
    .filter((t) => sourceTracks.value.has(t.id))
    .flatMap((t) => t.devices.map((d) => ({ value: d.id, label: sourceTracks.value.size > 1 ? `${t.name} ${d.name}` : d.name }))),
)
const range = computed(() => selection.range)
const from = computed(() => at.value ?? range.value?.start ?? 0)

/** What was decided here, else what is remembered for the pair of tracks, for what is carried now. */
const matches = computed<Match[]>(() => {
  const carried = new Set(selection.lanes.map((id) => session.lanes.get(id)?.parameter))
  const remembered = (session.data?.matches ?? []).map((m) => [`${m.parameter} ${m.track}`, m] as const)
  const all = new Map<string, Match | null>([...remembered, ...Object.entries(decided.value)])
  return [...all.values()].filter((m): m is Match => !!m && carried.has(m.parameter) && targets.value.includes(m.track))
})

const draft = computed<Extract<AnyRequest, { verb: 'carry' }>>(() => ({
  verb: 'carry',
  lanes: selection.lanes,
  targets: targets.value,
  devices: devices.value.filter((d) => deviceOptions.value.some((o) => o.value === d)),
  matches: matches.value,
  start: range.value?.start ?? null,
  end: range.value?.end ?? null,
  at: at.value,
  how: how.value === 'move' && !go.value ? 'move' : 'copy',
  linked: how.value === 'linked' && !go.value,
  edges: edges.value,
  ramp: edges.value === 'ramp' ? ramp.value.beats : 0,
  times: times.value,
  every: times.value > 1 && every.value.beats ? every.value.beats : null,
  missing: missing.value,
  match_static: matchStatic.value,
  set_to_read: false,
  alternative: go.value,
}))
const request = computed(() => (selection.lanes.length && targets.value.length ? draft.value : null))
usePreviewOf(request, undefined, draft)
const { answer: table } = useAsking(askedOf(request), ({ id, request }, signal) =>
  asked(api.POST('/api/sessions/{id}/matches', { params: { path: { id } }, body: { request }, signal })),
)
const said = computed(() => {
  const cells = table.value?.cells ?? []
  const count = (what: string) => cells.filter((c) => c.do === what).length
  const parts = [
    `${count('land')} land`,
    count('add') && `${count('add')} added`,
    count('leave out') && `${count('leave out')} left out`,
  ]
  return cells.length ? parts.filter(Boolean).join(', ') : 'choose a track first'
})
const resting = computed(() => table.value?.resting ?? [])
const restingSaid = computed(() =>
  resting.value.length
    ? `${resting.value.length} ${resting.value.length === 1 ? 'differs' : 'differ'}`
    : request.value
      ? 'are alike'
      : '',
)
const restingTitle = computed(() =>
  resting.value.map((r) => `${r.name}: ${r.target_text}, the source ${r.source_text}`).join('\n'),
)

watch(
  () => session.tracks,
  (tracks) => {
    const left = targets.value.filter((id) => tracks.has(id))
    if (left.length !== targets.value.length) targets.value = left
  },
  { immediate: true },
)
</script>

<template>
  <form class="form" :class="{ wide: tableShown }" @submit.prevent>
    <template v-if="tableShown">
      <p class="lead">
        <b>Match table</b> <span class="soft">{{ said }}. What is decided here is remembered for these tracks.</span>
        <button class="link" type="button" @click="leaveTable">back to the sheet</button>
      </p>
      <MatchTable
        v-if="table?.cells.length"
        :cells="table.cells"
        :matches="matches"
        @decide="(p, t, m) => (decided = { ...decided, [`${p} ${t}`]: m })"
      />
    </template>
    <template v-else>
      <fieldset>
        <legend>
          <span>From</span>
          <button class="link soft" type="button" :disabled="!table?.cells.length" @click="tableShown = true">
            match table: {{ said }}
          </button>
        </legend>
        <LanesField data-field="lanes" label="Lanes to carry" />
        <GoField v-model="go" />
        <RangeField data-field="start end" />
        <KeepField v-if="!go" v-model="how" data-field="how linked" linked />
        <Setting v-model="missing" of="carry/missing" />
        <Setting
          v-if="deviceOptions.length"
          v-model="devices"
          of="carry/devices"
          asks="Devices to take along whole"
          :options="deviceOptions"
          none="none"
        />
      </fieldset>
      <fieldset>
        <legend><span>To</span> <RecipeField verb="carry" :request="request" /></legend>
        <Setting v-model="targets" of="carry/targets" asks="Tracks to carry to" :options="trackOptions" none="choose a track" />
        <SpotField v-model="at" of="carry/at" :usual="from" none="same place" :cursor="at === null" />
        <Setting v-model="times" of="carry/times" data-field="times every">
          <template v-if="times > 1">
            every
            <TypedField
              label="How far apart"
              kind="length"
              :text="every.text"
              :start="from"
              @read="(beats, text) => (every = { beats, text })"
            />
          </template>
          <span v-else class="soft">once</span>
        </Setting>
        <EdgesField data-field="edges ramp" v-model:edges="edges" v-model:ramp="ramp" :start="from" />
        <Setting v-model="matchStatic" of="carry/match_static" asks="Static values of the targets">
          <template #called>
            <span :title="restingTitle"
              >Static values <span class="soft">{{ restingSaid }}</span></span
            >
          </template>
        </Setting>
      </fieldset>
    </template>
  </form>
</template>

<style scoped>
.lead .link {
  margin-left: 0.5em;
}
.form.wide {
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
}
.lead .link {
  margin-left: 10px;
}
legend button:disabled {
  text-decoration: none;
  cursor: default;
}
</style>
