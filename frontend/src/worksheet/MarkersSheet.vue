<script setup lang="ts">
// Markers: a new one at the cursor, or the chosen ones named, moved, made cues, or removed.
import { computed, ref, watch } from 'vue'
import type { AnyRequest } from '../api/client'
import { useBench } from '../state/bench'
import { usePreview, usePreviewOf } from '../state/preview'
import { whenRead } from '../state/reading'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import Setting from '../parts/fields/Setting.vue'
import SpotField from '../parts/fields/SpotField.vue'
import { setUp } from '../state/setUps'
import { counted } from '../lib/words'

const session = useSession()
const selection = useSelection()
const bench = useBench()
const preview = usePreview()
const name = ref('')
const cue = setUp('markers.cue', false)
const at = ref<number | null>(null)

const all = computed(() => session.data?.markers ?? [])
const chosen = computed(() => all.value.filter((m) => selection.markers.includes(m.id)))
const one = computed(() => (chosen.value.length === 1 ? chosen.value[0] : undefined))
/** Two of one name are told apart by where they stand. */
const options = computed(() =>
  all.value.map((m) => ({ value: m.id, label: m.name ? `${m.name}, ${session.position(m.at)}` : m.called })),
)
/** Where a hand on the ruler holds them just now. */
const held = computed(() => {
  const first = chosen.value[0]
  return first ? preview.change?.markers?.find((m) => m.id === first.id)?.at : undefined
})
const stands = computed(() => held.value ?? at.value ?? chosen.value[0]?.at ?? bench.cursor)

watch(
  [() => selection.markers.join(), () => session.data?.revision],
  () => {
    name.value = one.value?.name ?? ''
    at.value = null
    if (chosen.value.length) cue.value = chosen.value.every((m) => m.cue)
  },
  { immediate: true },
)

const request = computed<AnyRequest | null>(() => {
  const markers = chosen.value.map((m) => m.id)
  if (!markers.length) return name.value.trim() || at.value !== null ? draft.value : null
  const same = { by: 0, at: null, name: null, cue: null }
  const was = one.value
  const changed = {
    ...same,
    at: at.value !== null && at.value !== chosen.value[0]!.at ? at.value : null,
    name: was && name.value.trim() !== was.name ? name.value : null,
    cue: chosen.value.some((m) => m.cue !== cue.value) ? cue.value : null,
  }
  const nothing = changed.at === null && changed.name === null && changed.cue === null
  return nothing ? null : { verb: 'change markers', markers, ...changed }
})
const draft = computed<AnyRequest>(() =>
  chosen.value.length
    ? { verb: 'change markers', markers: chosen.value.map((m) => m.id), by: 0, at: at.value, name: null, cue: null }
    : { verb: 'add marker', at: at.value ?? bench.cursor, name: name.value, cue: cue.value },
)
usePreviewOf(
  request,
  () =>
    chosen.value.length ? 'Change its name or its place, or drag it on the ruler.' : 'Type a name for a marker at the cursor.',
  draft,
)

/** What a field that is typed into asks for: once what was typed before it has been read. */
const enter = () => whenRead(() => request.value && session.apply(request.value))
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset>
      <legend>Which</legend>
      <Setting
        v-model="selection.markers"
        of="change markers/markers"
        asks="Markers to work on"
        :options="options"
        none="a new one"
      />
      <div v-if="chosen.length" class="field">
        <span>{{ counted(chosen.length, 'marker') }}</span>
        <span class="pair">
          <button class="link" type="button" @click="selection.markers = []">a new one</button>
          <button class="link" type="button" @click="session.apply({ verb: 'remove markers', markers: chosen.map((m) => m.id) })">
            remove {{ chosen.length === 1 ? 'it' : 'them' }}
          </button>
        </span>
      </div>
    </fieldset>
    <fieldset>
      <legend>{{ chosen.length ? 'Change' : 'New' }}</legend>
      <div v-if="chosen.length < 2" class="field" data-field="name">
        <label for="marker-name">Name</label>
        <input
          id="marker-name"
          v-model="name"
          class="words long"
          maxlength="300"
          autocomplete="off"
          placeholder="type it"
          @keydown.enter.prevent="enter"
        />
      </div>
      <SpotField
        v-model="at"
        of="add marker/at"
        data-field="at by"
        :label="chosen.length > 1 ? 'The first at' : 'At'"
        asks="Marker at"
        :usual="stands"
        :none="chosen.length ? 'same place' : 'the cursor'"
        :cursor="!!chosen.length"
      />
      <Setting v-model="cue" of="add marker/cue" tick />
    </fieldset>
  </form>
</template>

<style scoped>
.form .long {
  width: 26ch;
}
</style>
