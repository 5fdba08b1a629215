<script setup lang="ts">
// Modes: which tracks read their lanes, and which are off; what becomes heard is drawn and said before it is done.
import { computed, watch } from 'vue'
import type { AnyRequest } from '../api/client'
import { usePreviewOf } from '../state/preview'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { setUp } from '../state/setUps'
import { useWorksheet } from '../state/worksheet'
import PickList from './PickList.vue'

type Mode = Extract<AnyRequest, { verb: 'set mode' }>['mode']
const MODES: { value: Mode; label: string }[] = [
  { value: 'read', label: 'read' },
  { value: 'off', label: 'off' },
  { value: 'touch', label: 'touch' },
  { value: 'latch', label: 'latch' },
  { value: 'write', label: 'write' },
]
const session = useSession()
const selection = useSelection()
const worksheet = useWorksheet()
const tracks = setUp<string[]>('modes.tracks', [])
const mode = setUp<Mode>('modes.mode', 'read')

const all = computed(() => session.data?.tracks ?? [])
const options = computed(() => all.value.map((t) => ({ value: t.id, label: `${t.name} (${t.reads ? t.mode : 'not reading'})` })))
const silent = computed(() => all.value.filter((t) => !t.reads).map((t) => t.id))
const chosen = computed(() => [...new Set(selection.lanes.flatMap((id) => session.lanes.get(id)?.track ?? []))])
// Where a track's mode was clicked: it is about that track, and about what it is not.
watch(
  () => worksheet.pointed,
  (at) => {
    if (!at) return
    tracks.value = [at.track]
    mode.value = at.reads ? 'off' : 'read'
    worksheet.pointed = null
  },
  { immediate: true },
)
watch(
  () => session.tracks,
  (now) => {
    const left = tracks.value.filter((id) => now.has(id))
    if (left.length !== tracks.value.length) tracks.value = left
    if (!tracks.value.length) tracks.value = chosen.value
  },
  { immediate: true },
)

const draft = computed<AnyRequest>(() => ({ verb: 'set mode', tracks: tracks.value, mode: mode.value }))
const request = computed(() => (tracks.value.length ? draft.value : null))
usePreviewOf(request, () => 'Choose tracks to set to read, or off.', draft)
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset>
      <legend>Which tracks</legend>
      <div class="field" data-field="tracks">
        <span>Tracks</span>
        <PickList v-model="tracks" label="Tracks to set" :options="options" />
      </div>
      <p class="pair">
        <button class="link soft" type="button" :disabled="!chosen.length" @click="tracks = chosen">
          those of the chosen lanes
        </button>
        <button class="link soft" type="button" :disabled="!silent.length" @click="tracks = silent">
          all that do not read ({{ silent.length }})
        </button>
        <button class="link soft" type="button" @click="tracks = all.map((t) => t.id)">all</button>
      </p>
    </fieldset>
    <fieldset>
      <legend>Set them to</legend>
      <div class="field" data-field="mode">
        <span>Mode</span>
        <ElRadioGroup v-model="mode" size="small" aria-label="Mode to set">
          <ElRadioButton v-for="m in MODES" :key="m.value" :value="m.value">{{ m.label }}</ElRadioButton>
        </ElRadioGroup>
      </div>
      <p class="soft">
        Off: none of the track’s lanes is heard. In every other mode they are; touch, latch and write say how a ride writes.
      </p>
    </fieldset>
  </form>
</template>
