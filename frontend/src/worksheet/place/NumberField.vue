<script setup lang="ts">
// A number that is typed, its unit with it or not; a percentage also as a factor: *1.5.
import { ref, watch } from 'vue'

const props = defineProps<{
  label: string
  value: number | null
  none?: string
  unit?: string
  percent?: boolean
  live?: boolean
}>()
const emit = defineEmits<{ read: [number] }>()
const said = () => (props.value == null ? '' : String(props.value))
const typed = ref(said())
const wrong = ref(false)
watch(
  () => props.value,
  () => {
    if (!wrong.value && numberOf(typed.value) !== props.value) typed.value = said()
  },
)
/** What a text means; NaN where it is no number. */
function numberOf(said: string): number {
  const text = said.trim().replace('−', '-').replace(',', '.')
  if (props.percent && /^[*×]/.test(text)) return Number(text.slice(1) || NaN) * 100
  const bare = props.unit && text.endsWith(props.unit) ? text.slice(0, -props.unit.length) : text
  return Number(bare.trim() || NaN)
}
function read(): void {
  const number = numberOf(typed.value)
  wrong.value = !Number.isFinite(number)
  if (!wrong.value && number !== props.value) emit('read', number)
}
/** While it is typed: what is no number yet is not said to be wrong yet. */
function readLive(): void {
  if (!props.live) return
  read()
  wrong.value = false
}
</script>

<template>
  <input
    v-model="typed"
    class="words-field"
    :class="{ wrong }"
    :aria-label="label"
    :aria-invalid="wrong"
    :title="wrong ? `“${typed}” is not a number. Expected: 4, 0.5, -3` : undefined"
    :placeholder="none"
    :size="Math.max(typed.length, none?.length ?? 0, 3)"
    autocomplete="off"
    @input="readLive"
    @change="read"
    @keydown.enter="read"
    @focus="($event.target as HTMLInputElement).select()"
  />
</template>

<style scoped>
.wrong {
  border-bottom: 2px solid var(--fresh);
}
</style>
