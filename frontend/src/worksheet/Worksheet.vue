<script setup lang="ts">
// The worksheet: the verbs, the chosen verb's sheet, and on the right what would happen.
import { computed, onBeforeUnmount, onMounted, watch } from 'vue'
import { useBench } from '../state/bench'
import CarrySheet from './CarrySheet.vue'
import ClearSheet from './ClearSheet.vue'
import DrawSheet from './DrawSheet.vue'
import EmbedSheet from './EmbedSheet.vue'
import IfApplied from './IfApplied.vue'
import PasteSheet from './PasteSheet.vue'
import PointsSheet from './PointsSheet.vue'
import RaiseSheet from './RaiseSheet.vue'
import RegionsSheet from './RegionsSheet.vue'
import RetargetSheet from './RetargetSheet.vue'

const bench = useBench()
const VERBS = [
  { id: 'carry', name: 'Carry', key: 'c', sheet: CarrySheet },
  { id: 'retarget', name: 'Retarget', key: 't', sheet: RetargetSheet },
  { id: 'regions', name: 'Regions', key: 'g', sheet: RegionsSheet },
  { id: 'embed', name: 'Embed / lift', key: 'm', sheet: EmbedSheet },
  { id: 'points', name: 'Points', key: 'p', sheet: PointsSheet },
  { id: 'raise', name: 'Raise', key: 'r', sheet: RaiseSheet },
  { id: 'draw', name: 'Draw', key: 'd', sheet: DrawSheet },
  { id: 'clear', name: 'Clear', key: 'x', sheet: ClearSheet },
  { id: 'paste', name: 'Paste', key: 'v', sheet: PasteSheet },
]
const sheet = computed(() => VERBS.find((v) => v.id === bench.verb)?.sheet ?? CarrySheet)
watch(
  () => bench.verb,
  () => (bench.confirmed = true),
)

function key(event: KeyboardEvent): void {
  if ((event.target as HTMLElement).closest('input, textarea') || event.ctrlKey || event.metaKey || event.altKey) return
  const chosen = VERBS.find((v) => v.key === event.key)
  if (!chosen) return
  event.preventDefault()
  bench.verb = chosen.id
}
onMounted(() => window.addEventListener('keydown', key))
onBeforeUnmount(() => window.removeEventListener('keydown', key))
</script>

<template>
  <section class="worksheet" aria-label="Worksheet">
    <nav class="verbs" aria-label="Verbs">
      <button
        v-for="v in VERBS"
        :key="v.id"
        :class="{ on: v.id === bench.verb }"
        :aria-current="v.id === bench.verb"
        @click="bench.verb = v.id"
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
