<script setup lang="ts">
// How deep something lies: in percent of the range, or to each side in the parameter's unit: “20 %”, “± 3 dB”.
import { ref, watch } from 'vue'
import { useUnread } from '../../state/reading'

const props = defineProps<{ label: string; percent: number | null; side: number | null; unit: string; none?: string }>()
const emit = defineEmits<{ percent: [number: number]; side: [number: number] }>()
const USUAL = 100
const said = () => {
  if (props.side !== null) return `± ${+props.side.toFixed(4)} ${props.unit}`.trim()
  return props.percent === null ? '' : `${+props.percent.toFixed(4)} %`
}
const typed = ref(said())
const wrong = ref('')
useUnread(
  () => props.label,
  () => wrong.value,
)
watch([() => props.percent, () => props.side, () => props.unit], () => {
  typed.value = said()
  wrong.value = ''
})

function read(): void {
  const text = typed.value.trim().replace('−', '-').replace(',', '.')
  const found = /^(±|\+-|\+\/-)?\s*(-?(?:\d+\.?\d*|\.\d+))\s*(.*)$/.exec(text || String(USUAL))
  const [, sign, figure, unit] = found ?? []
  const number = Number(figure ?? NaN)
  const ofUnit = props.unit !== '' && unit?.toLowerCase() === props.unit.toLowerCase()
  const inPercent = !sign && (unit === '' || unit === '%')
  wrong.value = ''
  if (Number.isFinite(number) && inPercent) emit('percent', number)
  else if (Number.isFinite(number) && (ofUnit || (sign && unit === ''))) emit('side', number)
  else wrong.value = `“${typed.value}” is not a depth. Expected: 50 %, or ± 3 ${props.unit}`.trim()
  if (!wrong.value) typed.value = said()
}
function giveUp(event: KeyboardEvent): void {
  if (!wrong.value) return
  event.stopPropagation()
  wrong.value = ''
  typed.value = said()
}
</script>

<template>
  <span class="depth">
    <input
      v-model="typed"
      class="words-field"
      :class="{ wrong }"
      :aria-label="label"
      :aria-invalid="!!wrong"
      :placeholder="none"
      :title="unit ? `In percent of the range, or to each side: ± 3 ${unit}` : 'In percent of the range, or to each side'"
      :size="Math.max(typed.length, none?.length ?? 0, 5)"
      autocomplete="off"
      @change="read"
      @keydown.enter="read"
      @keydown.escape="giveUp"
      @focus="($event.target as HTMLInputElement).select()"
    />
    <span v-if="wrong" class="unreadable" role="alert">{{ wrong }}</span>
  </span>
</template>

<style scoped>
.depth {
  position: relative;
}
.wrong {
  border-bottom: 2px solid var(--fresh);
}
</style>
