<script setup lang="ts">
// Tidying the history: what that would free is said first; then it asks.
import { ref, watch } from 'vue'
import { api, asked, type Schemas } from '../api/client'
import { useSession } from '../state/session'
import { counted, figure } from '../lib/words'

const emit = defineEmits<{ tidied: [] }>()
const session = useSession()
const days = ref(30)
const found = ref<Schemas['TidiedOut'] | null>(null)
const done = ref<Schemas['TidiedOut'] | null>(null)
watch([days, () => session.data?.revision], () => (found.value = null))

async function ask(sure: boolean): Promise<void> {
  const old = Math.max(0, Number(days.value) || 0)
  await session.guarded(async () => {
    const call = { params: { path: { id: session.data!.id } }, body: { days: old, sure } }
    const answer = await asked(api.POST('/api/sessions/{id}/log/tidy', call))
    found.value = sure ? null : answer
    done.value = sure ? answer : null
    if (sure) emit('tidied')
  })
}
const room = (bytes: number) => (bytes < 1e6 ? `${figure(Math.ceil(bytes / 1e3))} kB` : `${figure(Math.round(bytes / 1e6))} MB`)
</script>

<template>
  <section class="tidy" aria-label="Tidy the history">
    <p>
      Tidy the history: steps older than
      <input v-model.number="days" type="number" min="0" max="36500" aria-label="Days" /> days become one step from mark to mark,
      and ways that were left go. Marks stay.
      <button class="link" @click="ask(false)">what would that free?</button>
    </p>
    <p v-if="found && !found.steps">Nothing: there is no step that could go.</p>
    <p v-else-if="found">
      {{ counted(found.steps, 'step') }} would go<span v-if="found.aside">, {{ found.aside }} of them on ways that were left</span
      >, about {{ room(found.bytes) }}. They cannot be gone back to any more.
      <button class="link alarm" @click="ask(true)">Let them go</button>
    </p>
    <p v-if="done" role="status">{{ counted(done.steps, 'step') }} let go, about {{ room(done.bytes) }} freed.</p>
  </section>
</template>

<style scoped>
.tidy {
  padding: 18px 4px;
}
input {
  width: 8ch;
  padding: 2px 6px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  color: inherit;
  font: inherit;
}
.alarm {
  color: var(--fresh);
  font-weight: 700;
}
</style>
