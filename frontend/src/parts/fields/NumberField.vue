<script setup lang="ts">
// A number that is typed, its unit with it or not; a percentage also as a factor: *1.5. What is no number, or out of
// reach, is said beside it and keeps what is asked for from being applied.
import { ref, watch } from 'vue'
import { useUnread } from '../../state/reading'

defineOptions({ inheritAttrs: false })
const props = defineProps<{
  label: string
  value: number | null
  none?: string
  unit?: string
  percent?: boolean
  live?: boolean
  least?: number
  most?: number
  whole?: boolean
  /** What an emptied field means. */
  usual?: number
}>()
const emit = defineEmits<{ read: [number]; empty: [] }>()
const said = () => (props.value == null ? '' : String(props.value))
const typed = ref(said())
const wrong = ref('')
useUnread(
  () => props.label,
  () => wrong.value,
)
watch(
  () => props.value,
  () => {
    if (!wrong.value && numberOf(typed.value) !== props.value) typed.value = said()
  },
)
/** What a text means; NaN where it is no number. */
function numberOf(said: string): number {
  const text = said.trim().replace('−', '-').replace(',', '.')
  if (!text && props.usual !== undefined) return props.usual
  if (props.percent && /^[*×]/.test(text)) return Number(text.slice(1) || NaN) * 100
  const bare = props.unit && text.endsWith(props.unit) ? text.slice(0, -props.unit.length) : text
  return Number(bare.trim() || NaN)
}
/** What is wrong with a number, and what would be right; nothing if it is fine. */
function problemOf(number: number): string {
  const { least, most } = props
  const fits = props.whole ? 'a whole number' : 'a number'
  const reach = least === undefined ? '' : most === undefined ? ` from ${least} on` : ` from ${least} to ${most}`
  if (!Number.isFinite(number)) return `“${typed.value}” is not a number. Expected: ${reach ? fits + reach : '4, 0.5, -3'}`
  const beyond = number < (least ?? -Infinity) || number > (most ?? Infinity)
  return beyond || (props.whole && !Number.isInteger(number)) ? `“${typed.value}” does not fit. Expected: ${fits}${reach}` : ''
}
function read(): void {
  if (!typed.value.trim() && (props.value === null || (props.none !== undefined && props.usual === undefined))) {
    wrong.value = ''
    if (props.value !== null) emit('empty')
    return
  }
  const number = numberOf(typed.value)
  wrong.value = problemOf(number)
  if (wrong.value) return
  if (!typed.value.trim()) typed.value = String(number)
  if (number !== props.value) emit('read', number)
}
/** While it is typed: what is no number yet is not said to be wrong yet. */
function readLive(): void {
  if (!props.live) return
  const number = numberOf(typed.value)
  if (typed.value.trim() && !problemOf(number)) read()
}
function giveUp(event: KeyboardEvent): void {
  if (!wrong.value) return
  event.stopPropagation()
  wrong.value = ''
  typed.value = said()
}
</script>

<template>
  <span class="number-field">
    <input
      v-bind="$attrs"
      v-model="typed"
      class="words-field"
      :class="{ wrong }"
      :aria-label="label"
      :aria-invalid="!!wrong"
      :placeholder="none"
      :size="Math.max(typed.length, none?.length ?? 0, 3)"
      autocomplete="off"
      @input="readLive"
      @change="read"
      @keydown.enter="read"
      @keydown.escape="giveUp"
      @focus="($event.target as HTMLInputElement).select()"
    />
    <span v-if="wrong" class="unreadable" role="alert">{{ wrong }}</span>
  </span>
</template>

<style scoped>
.number-field {
  position: relative;
}
.wrong {
  border-bottom: 2px solid var(--fresh);
}
</style>
