<script setup lang="ts">
// Modes: which tracks read their lanes, and which are off; and switches, a device's or a mute, over a range. What becomes heard
// is drawn and said before it is done.
import { computed, watch } from 'vue'
import type { AnyRequest } from '../api/client'
import { usePreviewOf } from '../state/preview'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import Setting from '../parts/fields/Setting.vue'
import { setUp } from '../state/setUps'
import { useWorksheet } from '../state/worksheet'
import ChoiceField from '../parts/fields/ChoiceField.vue'
import RangeField from '../parts/fields/RangeField.vue'

type Mode = Extract<AnyRequest, { verb: 'set mode' }>['mode']
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

const part = setUp<'tracks' | 'switches'>('modes.part', 'tracks')
watch(
  () => worksheet.pointed,
  (at) => at && (part.value = 'tracks'),
  { flush: 'sync' },
)
const switches = setUp<string[]>('modes.switches', [])
const on = setUp<'on' | 'off'>('modes.on', 'off')
const switchOptions = computed(() =>
  all.value.flatMap((t) =>
    t.parameters.filter((p) => p.kind === 'switch').map((p) => ({ value: p.id, label: session.parameterName(p.id) })),
  ),
)
/** What the two values of the chosen switches are called. */
const called = computed(() => {
  const marks = switches.value.map((id) => session.parameters.get(id)?.parameter.axis.marks ?? [])
  const named = (n: 0 | 1) => [...new Set(marks.map((m) => m[n]?.text).filter(Boolean))].join(' or ')
  return { off: named(0) || 'off', on: named(1) || 'on' }
})
watch(
  () => session.parameters,
  (now) => {
    const left = switches.value.filter((id) => now.has(id))
    if (left.length !== switches.value.length) switches.value = left
  },
)

const draft = computed<AnyRequest>(() => {
  if (part.value === 'tracks') return { verb: 'set mode', tracks: tracks.value, mode: mode.value }
  const { start, end } = selection.range ?? { start: 0, end: session.data?.length ?? 0 }
  return { verb: 'set switch', parameters: switches.value, start, end, on: on.value === 'on' }
})
const request = computed(() => {
  const chosen = part.value === 'tracks' ? tracks.value : switches.value
  return chosen.length ? draft.value : null
})
const hint = () => (part.value === 'tracks' ? 'Choose tracks to set to read, or off.' : 'Choose a device’s switch, or a mute.')
usePreviewOf(request, hint, draft)
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset class="head">
      <ChoiceField
        v-model="part"
        data-field="what"
        :choices="[
          { value: 'tracks', words: 'tracks to read, or off' },
          { value: 'switches', words: 'a device or a mute, over a range' },
        ]"
        bare
        asks="What to set"
      />
    </fieldset>
    <template v-if="part === 'switches'">
      <fieldset>
        <legend>Which, and where</legend>
        <Setting
          v-model="switches"
          of="set switch/parameters"
          asks="Switches to set"
          :options="switchOptions"
          none="choose switches"
        />
        <RangeField data-field="start end" />
      </fieldset>
      <fieldset>
        <legend>Set them to</legend>
        <ChoiceField
          v-model="on"
          data-field="on"
          :choices="[
            { value: 'off', words: called.off },
            { value: 'on', words: called.on },
          ]"
          label="There"
          asks="What they are set to"
        />
        <p class="soft">Before the range and after it each is as it was.</p>
      </fieldset>
    </template>
    <fieldset v-if="part === 'tracks'">
      <legend>Which tracks</legend>
      <Setting v-model="tracks" of="set mode/tracks" asks="Tracks to set" :options="options" />
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
    <fieldset v-if="part === 'tracks'">
      <legend>Set them to</legend>
      <Setting v-model="mode" of="set mode/mode" asks="Mode to set" />
      <p class="soft">
        Off: none of the track’s lanes is heard. In every other mode they are; touch, latch and write say how a ride writes.
      </p>
    </fieldset>
  </form>
</template>
