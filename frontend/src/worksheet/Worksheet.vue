<script setup lang="ts">
// The worksheet: the verbs, the chosen verb's From / how / To sheet, and on the right what would happen.
import { onBeforeUnmount, onMounted, ref } from 'vue'
import CarrySheet from './CarrySheet.vue'
import IfApplied from './IfApplied.vue'

const verb = ref('carry')
const VERBS = [{ id: 'carry', name: 'Carry', key: 'c' }]

function key(event: KeyboardEvent): void {
  if ((event.target as HTMLElement).closest('input, textarea') || event.ctrlKey || event.metaKey || event.altKey) return
  const chosen = VERBS.find((v) => v.key === event.key)
  if (!chosen) return
  event.preventDefault()
  verb.value = chosen.id
  document.querySelector<HTMLElement>('.sheet input')?.focus()
}
onMounted(() => window.addEventListener('keydown', key))
onBeforeUnmount(() => window.removeEventListener('keydown', key))
</script>

<template>
  <section class="worksheet" aria-label="Worksheet">
    <nav class="verbs" aria-label="Verbs">
      <button v-for="v in VERBS" :key="v.id" :class="{ on: v.id === verb }" :aria-current="v.id === verb" @click="verb = v.id">
        {{ v.name }} <kbd>{{ v.key }}</kbd>
      </button>
    </nav>
    <CarrySheet v-if="verb === 'carry'" class="sheet" />
    <IfApplied class="if-applied" />
  </section>
</template>

<style scoped>
.worksheet { display: grid; grid-template-columns: 128px minmax(0, 1fr) 262px; height: 218px; background: var(--sheet); }
.verbs { padding: 8px 0; background: var(--paper); border-right: 1px solid var(--line); }
.verbs button { display: flex; justify-content: space-between; width: 100%; padding: 4px 14px; border: 0; border-left: 4px solid transparent; background: none; cursor: pointer; text-align: left; }
.verbs button.on { border-left-color: var(--ink); background: var(--sheet); font-weight: 700; }
.verbs kbd { font: 12px var(--mono); color: var(--soft); }
.sheet { min-width: 0; overflow: auto; }
.if-applied { border-left: 1px solid #ecc9b4; overflow: auto; }
@media (width >= 1700px) { .worksheet { height: 240px; } }
</style>
