<script setup lang="ts">
// The worksheet: folded, a sentence with the preview's figures; unfolded, the verbs and the chosen verb's sheet beside
// them. A verb's sheet is the file called after it; the verbs stand in the one table.
import { computed, onBeforeUnmount, onMounted, ref, watch, type Component } from 'vue'
import { VERBS, type VerbId } from '../lib/table'
import { useAlternatives } from '../state/alternatives'
import { useTransport } from '../state/desk/transport'
import { useListening } from '../state/listening'
import { allListen, useKeys } from '../state/keys'
import { useOneStop } from '../state/oneStop'
import { useWorksheet } from '../state/worksheet'
import IfApplied from './IfApplied.vue'
import SentenceLine from './SentenceLine.vue'

const worksheet = useWorksheet()
const transport = useTransport()
const alternatives = useAlternatives()
const listening = useListening()
const box = ref<HTMLElement | null>(null)
const verbs = ref<HTMLElement | null>(null)
useOneStop(verbs)
const files = import.meta.glob<{ default: Component }>('./*Sheet.vue', { eager: true })
const own = (id: VerbId) => files[`./${id.charAt(0).toUpperCase()}${id.slice(1)}Sheet.vue`]?.default
/** The file called after a verb, or else a list of its requests' fields. */
const sheetOf = (id: VerbId) => own(id) ?? files['./FieldsSheet.vue']!.default
const plain = computed(() => (own(worksheet.verb) ? {} : { verb: worksheet.verb, key: worksheet.verb }))
const sheet = computed(() => sheetOf(worksheet.verb))
onBeforeUnmount(() => transport.stop()) // nothing could stop it on another page
useKeys({
  ...Object.fromEntries(VERBS.map((verb) => [verb.id, () => (worksheet.verb = verb.id)])),
  play: () => transport.toggle(),
  'to the start': () => transport.toStart(),
  swap: () => listening.swap(),
  alone: () => listening.workAlone(),
  fold: () => (worksheet.folded = !worksheet.folded),
  'keep aside': () => alternatives.keepAside(),
})

/** Folded, only the controls of the field that is being changed are shown, and what its sheet is about. */
function showEdited(): void {
  const fields = box.value?.querySelectorAll<HTMLElement>('[data-field]') ?? []
  for (const field of fields) {
    const names = field.dataset['field']!.split(' ')
    const shown = names.includes(worksheet.editing ?? '') || names.includes('what')
    field.classList.toggle('shown', shown)
  }
}
watch([() => worksheet.editing, () => worksheet.folded, () => worksheet.verb], showEdited, { flush: 'post' })
// What comes into a sheet while one of its fields is changed is shown too, if it belongs to that.
const changes = new MutationObserver(showEdited)
onMounted(() => {
  showEdited()
  window.setTimeout(allListen) // the ledger is mounted in the same breath
  changes.observe(box.value!, { childList: true, subtree: true })
})
onBeforeUnmount(() => changes.disconnect())
</script>

<template>
  <section class="worksheet" :class="{ folded: worksheet.folded }" aria-label="Worksheet">
    <SentenceLine v-if="worksheet.folded" />
    <nav v-else ref="verbs" class="verbs" aria-label="Verbs">
      <button
        v-for="v in VERBS"
        :key="v.id"
        :class="{ on: v.id === worksheet.verb }"
        :aria-current="v.id === worksheet.verb"
        @click="worksheet.verb = v.id"
      >
        {{ v.name }} <kbd>{{ v.written }}</kbd>
      </button>
      <button class="fold" @click="worksheet.folded = true">fold <kbd>q</kbd></button>
    </nav>
    <div
      ref="box"
      class="box"
      :class="{ 'in-place': worksheet.folded }"
      :hidden="worksheet.folded && !worksheet.editing"
      :style="
        worksheet.folded
          ? { left: `min(${Math.max(worksheet.editingAt - 16, 12)}px, 100% - min(560px, 92vw) - 12px)` }
          : undefined
      "
      :role="worksheet.folded ? 'group' : undefined"
      :aria-label="worksheet.folded ? 'Change it' : undefined"
      @focusin="showEdited"
    >
      <component :is="sheet" v-bind="plain" class="sheet" />
    </div>
    <IfApplied :key="String(worksheet.folded)" class="if-applied" />
  </section>
</template>

<style scoped>
.worksheet {
  display: grid;
  grid-template: minmax(0, 1fr) / 158px minmax(0, 1fr) 262px;
  height: var(--worksheet);
  background: var(--sheet);
}
.verbs {
  display: grid;
  grid-auto-rows: minmax(13px, 1fr);
  padding: 4px 0;
  overflow: auto;
  background: var(--paper);
  border-right: 1px solid var(--line);
}
.verbs button {
  display: flex;
  justify-content: space-between;
  gap: 6px;
  width: 100%;
  align-items: center;
  padding: 0 10px;
  line-height: 13px;
  white-space: nowrap;
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
  font: 12px/13px var(--mono);
  color: var(--soft);
}
.fold {
  color: var(--soft);
}
.box {
  min-width: 0;
  overflow: auto;
}
.worksheet.folded {
  display: block;
  height: auto;
  min-height: 72px;
  background: var(--fresh-paper);
}
.in-place {
  position: absolute;
  bottom: 100%;
  z-index: 20;
  width: min(560px, 92vw);
  max-height: 60vh;
  padding: 4px 12px 10px;
  border: 1px solid var(--ink);
  border-radius: 3px;
  background: var(--sheet);
}
.in-place[hidden] {
  display: none;
}
.in-place :deep(.form) {
  display: block;
}
.in-place :deep(legend),
.in-place :deep(fieldset > p),
.in-place :deep(.lead),
.in-place :deep(.graph),
.in-place :deep(.field:not(.shown)) {
  display: none;
}
.sheet {
  min-width: 0;
  overflow: auto;
}
.if-applied {
  border-left: 1px solid var(--fresh-line);
  overflow: auto;
}
@media (width < 1100px) {
  .worksheet {
    grid-template-columns: 152px minmax(0, 1fr) 228px;
  }
}
@media (width < 800px) {
  .verbs kbd {
    display: none;
  }
  .worksheet {
    grid-template-columns: 112px minmax(0, 1fr) 200px;
  }
}
</style>
