<script setup lang="ts">
// A number that can be clicked and typed: a position, a length or a value, read by the server.
import { nextTick, ref, watch } from 'vue'
import { api, asked, refusal, sentence } from '../../api/client'
import { useSession } from '../../state/session'
import { begun, earlierRead, useUnread } from '../../state/reading'

const props = defineProps<{
  label: string
  text: string
  kind: 'position' | 'length' | 'shift' | 'value'
  start?: number
  parameter?: string
  /** What an emptied field means; nothing: as it was. */
  usual?: { number: number; text: string }
}>()
const emit = defineEmits<{ read: [number: number, text: string] }>()
const session = useSession()
const typed = ref(props.text)
const wrong = ref('')
useUnread(
  () => props.label,
  () => wrong.value,
)
const field = ref<HTMLInputElement | null>(null)
let newest = 0
watch(
  () => props.text,
  (text, before) => {
    if (typed.value !== before) return // being typed in: what another field changed must not take that away
    const marked = isMarked()
    typed.value = text
    wrong.value = ''
    // What is typed next still replaces the whole text.
    if (marked) void nextTick(() => field.value?.select())
  },
)

/** Whether the whole text is marked, ready to be typed over. */
function isMarked(): boolean {
  const input = field.value
  if (!input || document.activeElement !== input) return false
  return input.selectionStart === 0 && input.selectionEnd === input.value.length
}

function read(): void {
  begun(readText(earlierRead()))
}
/** Have the server read what is typed, once what was typed before has been; of two readings the newer one counts. */
async function readText(earlier: Promise<void>): Promise<boolean> {
  const id = session.data?.id
  const mine = ++newest
  if (!typed.value.trim()) {
    wrong.value = ''
    if (props.usual) emit('read', props.usual.number, props.usual.text)
    await nextTick()
    typed.value = props.text
    return true
  }
  if (id === undefined || typed.value === props.text) {
    wrong.value = ''
    return true
  }
  const said = typed.value
  await earlier
  if (mine !== newest) return true
  try {
    const body = { kind: props.kind, text: said, start: props.start ?? 0, parameter: props.parameter ?? null }
    const answer = await asked(api.POST('/api/sessions/{id}/typed', { params: { path: { id } }, body }))
    if (mine !== newest) return true
    wrong.value = ''
    emit('read', answer.number, answer.text)
    await nextTick()
    if (typed.value === said) typed.value = props.text
    return true
  } catch (error) {
    if (mine !== newest) return true
    wrong.value = sentence(refusal(error))
    return false
  }
}

function giveUp(event: KeyboardEvent): void {
  newest++
  typed.value = props.text
  wrong.value = ''
  ;(event.target as HTMLInputElement).blur()
  event.stopPropagation()
}
</script>

<template>
  <span class="typed">
    <input
      ref="field"
      v-model="typed"
      class="words-field"
      :class="{ wrong }"
      :aria-label="label"
      :aria-invalid="!!wrong"
      :size="Math.max(typed.length, 4)"
      spellcheck="false"
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
.typed {
  position: relative;
}
input.wrong {
  border-bottom: 2px solid var(--fresh);
}
</style>
