<script setup lang="ts">
// The sheet of a verb that has none of its own: its requests' fields, each by the control for what it is.
import { computed } from 'vue'
import type { AnyRequest } from '../api/client'
import { choicesOf, fieldOf, inBeats, type ChoiceField as ChoiceName, type FieldName } from '../lib/fields'
import { PLAIN_SHEETS } from '../lib/table'
import ChoiceField from '../parts/fields/ChoiceField.vue'
import LanesField from '../parts/fields/LanesField.vue'
import RangeField from '../parts/fields/RangeField.vue'
import RegionsField from '../parts/fields/RegionsField.vue'
import Setting from '../parts/fields/Setting.vue'
import SpotField from '../parts/fields/SpotField.vue'
import { useBench } from '../state/bench'
import { usePreviewOf } from '../state/preview'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { setUp } from '../state/setUps'

interface Asked {
  verb: string
  fields: readonly string[]
}
const props = defineProps<{ verb: string }>()
const session = useSession()
const selection = useSelection()
const bench = useBench()
const requests = computed(() => (PLAIN_SHEETS as Record<string, readonly Asked[]>)[props.verb] ?? [])
const which = setUp(`${props.verb}.which`, 0)
const asked = computed(() => requests.value[which.value])
const set = setUp<Record<string, unknown>>(`${props.verb}.fields`, {})
const known = computed(() =>
  (asked.value?.fields ?? []).map((name) => {
    const of = `${asked.value!.verb}/${name}` as FieldName
    return { name, of, ...fieldOf(of) }
  }),
)
type Known = (typeof known.value)[number]
const isTyped = (f: Known) => f.kind === 'length' || f.kind === 'shift'

/** What a field holds before anything is said of it. */
function usual(f: Known): unknown {
  if (isTyped(f)) return f.usual == null ? { beats: null, text: '' } : inBeats(Number(f.usual))
  if (f.kind in options.value) return []
  return f.usual ?? (f.kind === 'choice' ? choicesOf(f.of as ChoiceName)[0]!.value : f.kind === 'text' ? '' : null)
}
const valueOf = (f: Known) => set.value[f.name] ?? usual(f)
const beatOf = (f: Known) => valueOf(f) as number | null
const change = (f: Known, value: unknown) => (set.value = { ...set.value, [f.name]: value })

const options = computed<Record<string, { value: string; label: string }[]>>(() => ({
  tracks: (session.data?.tracks ?? []).map((t) => ({ value: t.id, label: t.name })),
  parameters: [...session.parameters.values()].map((p) => ({
    value: p.parameter.id,
    label: `${p.track.name} ${p.parameter.name}`,
  })),
  markers: (session.data?.markers ?? []).map((m) => ({ value: m.id, label: m.called })),
}))

/** What a field of the request is filled with: from the bench, or from its line here. */
function filled(f: Known): unknown {
  if (f.kind === 'range') return selection.range?.[f.name as 'start' | 'end'] ?? null
  if (f.kind === 'lanes') return selection.lanes
  if (f.kind === 'regions') return selection.regions
  if (f.kind === 'position' && f.needed) return valueOf(f) ?? bench.cursor
  return isTyped(f) ? (valueOf(f) as { beats: number | null }).beats : valueOf(f)
}
const draft = computed(() => {
  if (!asked.value) return null
  return { verb: asked.value.verb, ...Object.fromEntries(known.value.map((f) => [f.name, filled(f)])) }
})
const request = computed(() => {
  const lacks = known.value.some(
    (f) => (f.kind in options.value || ['lanes', 'regions'].includes(f.kind)) && !(filled(f) as string[]).length,
  )
  return lacks ? null : (draft.value as AnyRequest | null)
})
usePreviewOf(
  request,
  undefined,
  computed(() => draft.value as AnyRequest | null),
)
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset v-if="asked">
      <legend>What</legend>
      <ChoiceField
        v-if="requests.length > 1"
        v-model="which"
        data-field="what"
        :choices="requests.map((one, n) => ({ value: n, words: one.verb }))"
        bare
        asks="What to do"
      />
      <template v-for="f in known" :key="f.name">
        <LanesField v-if="f.kind === 'lanes'" :data-field="f.name" label="Lanes" />
        <RegionsField v-else-if="f.kind === 'regions'" :data-field="f.name" label="Regions" />
        <RangeField v-else-if="f.kind === 'range' && f.name === 'start'" data-field="start end" />
        <SpotField
          v-else-if="f.kind === 'position'"
          :model-value="beatOf(f)"
          :of="f.of"
          :usual="bench.cursor"
          :none="f.needed ? 'the cursor' : 'same place'"
          @update:model-value="(beat) => change(f, beat)"
        />
        <Setting
          v-else-if="f.kind !== 'range' && f.kind !== 'other'"
          :model-value="valueOf(f)"
          :of="f.of"
          :options="options[f.kind]"
          @update:model-value="(value) => change(f, value)"
        />
      </template>
    </fieldset>
  </form>
</template>
