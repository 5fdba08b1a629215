<script setup lang="ts">
// A note where it is: its words, to be changed in place; or the offer to make one.
import { computed, nextTick, ref } from 'vue'
import type { Schemas } from '../api/client'
import { useSession } from '../state/session'

const props = defineProps<{ about: Schemas['NoteOut']['about']; of: string; called: string; stop?: number }>()
const session = useSession()
const text = computed(() => session.noteOn(props.about, props.of))
const editing = ref(false)
const typed = ref('')
const field = ref<HTMLInputElement | null>(null)

async function edit(): Promise<void> {
  typed.value = text.value
  editing.value = true
  await nextTick()
  field.value?.focus()
}
async function keep(): Promise<void> {
  if (!editing.value) return
  editing.value = false
  if (typed.value.trim() !== text.value)
    await session.apply({ verb: 'note', about: props.about, of: props.of, text: typed.value })
}
</script>

<template>
  <input
    v-if="editing"
    ref="field"
    v-model="typed"
    class="note-field"
    maxlength="2000"
    :aria-label="`Note on ${called}`"
    placeholder="a note; empty takes it away"
    @keydown.enter.prevent="keep"
    @keydown.escape.stop="editing = false"
    @blur="keep"
  />
  <button v-else-if="text" type="button" class="plain-button note" :tabindex="stop" :title="text" @click="edit">
    <span class="out-of-sight">Note on {{ called }}: </span>{{ text }}
  </button>
  <button v-else type="button" class="link soft add-note" :tabindex="stop" :aria-label="`Put a note on ${called}`" @click="edit">
    note
  </button>
</template>

<style scoped>
.note {
  max-width: 40ch;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  border-left: 2px solid var(--line);
  padding-left: 6px;
  font-style: italic;
  color: var(--soft);
}
.note-field {
  width: 30ch;
  max-width: 100%;
  padding: 0 6px;
  border: 1px solid var(--ink);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
  font: inherit;
}
</style>
