<script setup lang="ts">
// The worksheet: the verbs, the chosen verb's sheet, and on the right what would happen. A verb's sheet is the file
// called after it; the verbs stand in the one table.
import { computed, type Component } from 'vue'
import { VERBS, type VerbId } from '../api/table'
import { useKeys } from '../keys'
import { useWorksheet } from '../state/worksheet'
import IfApplied from './IfApplied.vue'

const worksheet = useWorksheet()
const files = import.meta.glob<{ default: Component }>('./*Sheet.vue', { eager: true })
const sheetOf = (id: VerbId) => files[`./${id.charAt(0).toUpperCase()}${id.slice(1)}Sheet.vue`]!.default
const sheet = computed(() => sheetOf(worksheet.verb))
useKeys(Object.fromEntries(VERBS.map((verb) => [verb.id, () => (worksheet.verb = verb.id)])))
</script>

<template>
  <section class="worksheet" aria-label="Worksheet">
    <nav class="verbs" aria-label="Verbs">
      <button
        v-for="v in VERBS"
        :key="v.id"
        :class="{ on: v.id === worksheet.verb }"
        :aria-current="v.id === worksheet.verb"
        @click="worksheet.verb = v.id"
      >
        {{ v.name }} <kbd>{{ v.key }}</kbd>
      </button>
    </nav>
    <component :is="sheet" class="sheet" />
    <IfApplied class="if-applied" />
  </section>
</template>

<style scoped>
.worksheet {
  display: grid;
  grid-template-columns: 128px minmax(0, 1fr) 262px;
  height: 236px;
  background: var(--sheet);
}
.verbs {
  padding: 6px 0;
  background: var(--paper);
  border-right: 1px solid var(--line);
}
.verbs button {
  display: flex;
  justify-content: space-between;
  width: 100%;
  padding: 2.5px 14px;
  border: 0;
  border-left: 4px solid transparent;
  background: none;
  cursor: pointer;
  text-align: left;
}
.verbs button.on {
  border-left-color: var(--ink);
  background: var(--sheet);
  font-weight: 700;
}
.verbs kbd {
  font: 12px var(--mono);
  color: var(--soft);
}
.sheet {
  min-width: 0;
  overflow: auto;
}
.if-applied {
  border-left: 1px solid #ecc9b4;
  overflow: auto;
}
@media (width < 1100px) {
  .worksheet {
    grid-template-columns: 104px minmax(0, 1fr) 228px;
  }
}
@media (width >= 1700px) {
  .worksheet {
    height: 252px;
  }
}
</style>
