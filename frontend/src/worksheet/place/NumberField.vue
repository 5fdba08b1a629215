<script setup lang="ts">
// A number that is typed, its unit with it or not; a percentage also as a factor: *1.5.
import { ref, watch } from 'vue'

const props = defineProps<{ label: string; value: number | null; none?: string; unit?: string; percent?: boolean }>()
const emit = defineEmits<{ read: [number] }>()
const said = () => (props.value == null ? '' : String(props.value))
const typed = ref(said())
const wrong = ref(false)
watch(
  () => props.value,
  () => {
    if (!wrong.value) typed.value = said()
  },
)
function read(): void {
  const text = typed.value.trim().replace('−', '-').replace(',', '.')
  const factor = props.percent && /^[*×]/.test(text)
  const bare = props.unit && text.endsWith(props.unit) ? text.slice(0, -props.unit.length) : text
  const number = factor ? Number(text.slice(1)) * 100 : Number(bare)
  wrong.value = !bare.trim() || !Number.isFinite(number)
  if (!wrong.value && number !== props.value) emit('read', number)
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
