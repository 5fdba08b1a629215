<script setup lang="ts">
// The sheet of a verb that has none of its own: its requests' fields, each by the control for what it is.
import { computed } from 'vue'
import type { AnyRequest } from '../api/client'
import { choicesOf, type ChoiceField as ChoiceName } from '../lib/choices'
import { PLAIN_SHEETS } from '../lib/table'
import ChoiceButtons from '../parts/fields/ChoiceButtons.vue'
import ChoiceField from '../parts/fields/ChoiceField.vue'
import LanesField from '../parts/fields/LanesField.vue'
import NumberField from '../parts/fields/NumberField.vue'
import PickList from '../parts/fields/PickList.vue'
import RangeField from '../parts/fields/RangeField.vue'
import RegionsField from '../parts/fields/RegionsField.vue'
import TypedField from '../parts/fields/TypedField.vue'
import { usePreviewOf } from '../state/preview'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { setUp } from '../state/setUps'

interface Field {
  name: string
  kind: string
  label: string
  says: string
  usual: unknown
}
interface Asked {
  verb: string
  fields: readonly Field[]
}
const props = defineProps<{ verb: string }>()
const session = useSession()
const selection = useSelection()
const requests = computed(() => (PLAIN_SHEETS as Record<string, readonly Asked[]>)[props.verb] ?? [])
const which = setUp(`${props.verb}.which`, 0)
const asked = computed(() => requests.value[which.value])
const set = setUp<Record<string, unknown>>(`${props.verb}.fields`, {})

const usual = (f: Field) =>
  f.usual ??
  (f.kind === 'choice' ? choicesOf(`${asked.value!.verb}/${f.name}` as ChoiceName)[0]!.value : f.kind === 'text' ? '' : null)
const valueOf = (f: Field) => set.value[f.name] ?? usual(f)
const numberOf = (f: Field) => valueOf(f) as number | null
/** A place or a length, as it is typed. */
function timeOf(f: Field): string {
  const beats = numberOf(f)
  if (beats === null) return ''
  return f.kind === 'position' ? session.position(beats) : `${+beats.toFixed(4)} beats`
}
const change = (f: Field, value: unknown) => (set.value = { ...set.value, [f.name]: value })

/** What is picked on the bench or here, by what it is. */
function chosen(f: Field): string[] {
  if (f.kind === 'lanes') return selection.lanes
  if (f.kind === 'regions') return selection.regions
  return (valueOf(f) as string[] | null) ?? []
}
const options = computed<Record<string, { value: string; label: string }[]>>(() => ({
  tracks: (session.data?.tracks ?? []).map((t) => ({ value: t.id, label: t.name })),
  parameters: [...session.parameters.values()].map((p) => ({
    value: p.parameter.id,
    label: `${p.track.name} ${p.parameter.name}`,
  })),
  markers: (session.data?.markers ?? []).map((m) => ({ value: m.id, label: m.called })),
}))

function filled(f: Field): unknown {
  if (f.kind === 'range') return selection.range?.[f.name as 'start' | 'end'] ?? null
  if (['lanes', 'regions', 'tracks', 'parameters', 'markers'].includes(f.kind)) return chosen(f)
  return valueOf(f)
}
const draft = computed(() => {
  if (!asked.value) return null
  return { verb: asked.value.verb, ...Object.fromEntries(asked.value.fields.map((f) => [f.name, filled(f)])) }
})
const request = computed(() => {
  const lacks = asked.value?.fields.some((f) =>
    f.kind in options.value || ['lanes', 'regions'].includes(f.kind) ? !chosen(f).length : false,
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
      <template v-for="f in asked.fields" :key="f.name">
        <LanesField v-if="f.kind === 'lanes'" :data-field="f.name" label="Lanes" />
        <RegionsField v-else-if="f.kind === 'regions'" :data-field="f.name" label="Regions" />
        <RangeField v-else-if="f.kind === 'range' && f.name === 'start'" data-field="start end" />
        <div v-else-if="f.kind !== 'range' && f.kind !== 'other'" class="field" :data-field="f.name" :title="f.says">
          <span>{{ f.label }}</span>
          <PickList
            v-if="f.kind in options"
            :model-value="chosen(f)"
            :options="options[f.kind]!"
            :label="f.label"
            @update:model-value="(ids) => change(f, ids)"
          />
          <ChoiceButtons
            v-else-if="f.kind === 'choice'"
            :model-value="valueOf(f) as string"
            :of="`${asked.verb}/${f.name}` as ChoiceName"
            :asks="f.label"
            @update:model-value="(value) => change(f, value)"
          />
          <ElCheckbox
            v-else-if="f.kind === 'switch'"
            :model-value="valueOf(f) as boolean"
            :aria-label="f.label"
            @update:model-value="(value: unknown) => change(f, value)"
          />
          <TypedField
            v-else-if="f.kind === 'position' || f.kind === 'length'"
            :label="f.label"
            :kind="f.kind"
            :text="timeOf(f)"
            @read="(beats) => change(f, beats)"
          />
          <NumberField
            v-else-if="f.kind === 'amount' || f.kind === 'count'"
            :label="f.label"
            :value="numberOf(f)"
            :usual="usual(f) == null ? undefined : Number(usual(f))"
            :whole="f.kind === 'count'"
            @read="(value) => change(f, value)"
          />
          <input
            v-else
            class="words"
            :value="valueOf(f) as string"
            :aria-label="f.label"
            autocomplete="off"
            @change="(event) => change(f, (event.target as HTMLInputElement).value)"
          />
        </div>
      </template>
    </fieldset>
  </form>
</template>
