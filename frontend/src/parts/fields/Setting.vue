<script setup lang="ts" generic="Value">
// A line of a sheet: one field of a request, by the control for what it is, in the words its table has for it.
import { computed, type Ref } from 'vue'
import { fieldOf, ownName, type ChoiceField as ChoiceName, type FieldName, type Typed } from '../../lib/fields'
import { useWorksheet } from '../../state/worksheet'
import Chooser from '../Chooser.vue'
import ChoiceButtons from './ChoiceButtons.vue'
import NumberField from './NumberField.vue'
import PickList from './PickList.vue'
import TypedField from './TypedField.vue'

const props = defineProps<{
  of: FieldName
  /** What it is called on the sheet, where that is not what the request says; and to who does not see the sheet. */
  label?: string
  asks?: string
  /** Without a name beside it. */
  bare?: boolean
  /** What stands there as long as nothing does. */
  none?: string
  unit?: string
  /** What an emptied field means, where that is not what the request says. */
  usual?: unknown
  /** What can be picked: several of them for a list, one for a text. */
  options?: { value: string; label: string }[]
  /** Choices that cannot be made now. */
  off?: readonly string[]
  /** From where a length counts, in beats. */
  start?: number
  /** A box to tick in place of choices: ticked is the last of them. */
  tick?: boolean
}>()
const worksheet = useWorksheet()
const value = defineModel<Value>({ required: true })
const field = computed(() => fieldOf(props.of))
const name = computed(() => props.label ?? field.value.label)
const asked = computed(() => props.asks ?? name.value)
const unit = computed(() => props.unit ?? field.value.unit ?? '')
const usual = computed(() => (props.usual === undefined ? field.value.usual : props.usual))
/** A number's usual one; where nothing is usual, an emptied field is nothing. */
const usualNumber = computed(() => (usual.value == null ? undefined : Number(usual.value)))
const control = computed(() => {
  const { kind, words } = field.value
  if (props.options) return kind === 'text' ? 'chooser' : 'list'
  if (kind === 'switch' || (kind === 'choice' && props.tick)) return props.tick || !words ? 'tick' : 'choices'
  if (kind === 'amount' || kind === 'count') return 'number'
  return kind === 'choice' ? 'choices' : kind === 'text' ? 'text' : 'time'
})
const ends = computed(() => field.value.words ?? [])
const ticked = computed({
  get: () => (field.value.kind === 'switch' ? !!value.value : value.value === ends.value.at(-1)!.value),
  set: (on) => put(field.value.kind === 'switch' ? on : ends.value.at(on ? -1 : 0)?.value),
})
const asText = computed(() => (value.value ?? '') as string)
const asNumber = computed(() => value.value as number | null)
const timeKind = computed(() => (field.value.kind === 'shift' ? 'shift' : 'length'))
const typedText = computed(() => (value.value as Typed | null)?.text ?? '')
const put = (now: unknown) => ((value as Ref<unknown>).value = now)
</script>

<template>
  <div class="field" :data-field="ownName(of)">
    <slot name="called">
      <span v-if="!bare && (control !== 'tick' || !ends.length)" :title="field.says">{{ name }}</span>
    </slot>
    <PickList
      v-if="control === 'list'"
      :model-value="value as string[]"
      :options="options!"
      :label="asked"
      :placeholder="none"
      @update:model-value="put"
    />
    <Chooser
      v-else-if="control === 'chooser'"
      :model-value="asText"
      :options="options!"
      :label="asked"
      :none="none"
      :upwards="worksheet.folded"
      @update:model-value="put"
    />
    <ChoiceButtons
      v-else-if="control === 'choices'"
      :model-value="value as string"
      :of="of as ChoiceName"
      :asks="asked"
      :off="off"
      @update:model-value="put"
    />
    <ElCheckbox
      v-else-if="control === 'tick'"
      v-model="ticked"
      size="small"
      :label="ends.length ? (label ?? ends.at(-1)!.words) : undefined"
      :aria-label="ends.length ? undefined : asked"
      :title="field.says"
    />
    <span v-else-if="control === 'number'" class="pair">
      <NumberField
        :label="asked"
        :value="asNumber"
        :none="none"
        :unit="unit"
        :usual="usualNumber"
        :least="field.least"
        :most="field.most"
        :whole="field.kind === 'count'"
        live
        @read="put"
        @empty="put(null)"
      />
      {{ unit }}
      <slot />
    </span>
    <span v-else-if="control === 'time'" class="pair">
      <TypedField
        :label="asked"
        :kind="timeKind"
        :text="typedText"
        :start="start ?? 0"
        :usual="usual === undefined && !none ? undefined : { number: Number(usual ?? 0), text: none ?? '0 beats' }"
        @read="(beats, text) => put({ beats, text })"
      />
      <slot />
    </span>
    <input
      v-else
      class="words long"
      :value="asText"
      :aria-label="asked"
      :placeholder="none"
      maxlength="300"
      autocomplete="off"
      @input="put(($event.target as HTMLInputElement).value)"
    />
    <slot v-if="control !== 'number' && control !== 'time'" />
  </div>
</template>

<style scoped>
.words.long {
  width: 26ch;
}
</style>
