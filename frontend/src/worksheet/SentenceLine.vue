<script setup lang="ts">
// The folded worksheet's sentence: the verb, and what is asked in words, every part of which can be changed in place.
import { computed, nextTick, onBeforeUnmount, onMounted, ref } from 'vue'
import { api, asked } from '../api/client'
import { VERBS } from '../lib/table'
import { useAsking } from '../state/asking'
import { usePreview } from '../state/preview'
import { useSession } from '../state/session'
import { useWorksheet } from '../state/worksheet'

const session = useSession()
const worksheet = useWorksheet()
const preview = usePreview()
const line = ref<HTMLElement | null>(null)
const choosing = ref(false)
const PURPOSES = ['move', 'reuse', 'shape', 'regions', 'record'] as const

const verb = computed(() => VERBS.find((v) => v.id === worksheet.verb)!)
const wanted = computed(() => {
  const request = preview.gesture ?? preview.first ?? preview.draft
  return session.data && request ? { id: session.data.id, revision: session.data.revision, request } : null
})
const { answer: told } = useAsking(
  () => wanted.value,
  ({ id, request }, signal) =>
    asked(api.POST('/api/sessions/{id}/sentence', { params: { path: { id } }, body: { request }, signal })),
  { keep: true },
)
const parts = computed(() => (wanted.value ? (told.value?.parts ?? []) : []))

/** Open the control of a field above the sentence, and go to it; once more closes it. */
async function edit(field: string): Promise<void> {
  worksheet.editing = worksheet.editing === field ? null : field
  const words = line.value?.querySelector<HTMLElement>(`[data-part="${field}"]`)
  worksheet.editingAt = words?.offsetLeft ?? 0
  if (!worksheet.editing) return
  await nextTick()
  const shown = document.querySelector<HTMLElement>(`.in-place [data-field~="${field}"]`)
  const list = shown?.querySelector<HTMLElement>('.el-select__wrapper')
  shown?.querySelector<HTMLElement>('.el-select input, input, select, .el-radio-button__original-radio, button')?.focus()
  list?.click() // a list to choose from is wanted open
}
/** Close what is open and go back to the words it stands for. */
async function close(): Promise<void> {
  const field = worksheet.editing
  worksheet.editing = null
  choosing.value = false
  await nextTick()
  line.value?.querySelector<HTMLElement>(`[data-part="${field ?? 'verb'}"]`)?.focus()
}
function key(event: KeyboardEvent): void {
  if (event.key !== 'Escape' || (!worksheet.editing && !choosing.value)) return
  event.preventDefault()
  event.stopPropagation()
  void close()
}
function choose(id: typeof worksheet.verb): void {
  worksheet.verb = id
  void close()
}
/** A press elsewhere closes what is open. */
function pressed(event: PointerEvent): void {
  const inside = (event.target as HTMLElement).closest('.sentence, .in-place, .el-popper, .el-select-dropdown')
  if (inside || (!worksheet.editing && !choosing.value)) return
  worksheet.editing = null
  choosing.value = false
}
onMounted(() => {
  window.addEventListener('keydown', key, true)
  window.addEventListener('pointerdown', pressed, true)
})
onBeforeUnmount(() => {
  window.removeEventListener('keydown', key, true)
  window.removeEventListener('pointerdown', pressed, true)
})
</script>

<template>
  <div ref="line" class="sentence">
    <button class="verb" data-part="verb" :aria-expanded="choosing" @click="choosing = !choosing">{{ verb.name }}</button>
    <p v-if="parts.length" class="words" aria-label="What is asked">
      <template v-for="(part, i) in parts" :key="part.field || i">
        <button
          v-if="part.field"
          class="part"
          :class="{ missing: part.missing, open: worksheet.editing === part.field }"
          :data-part="part.field"
          :aria-expanded="worksheet.editing === part.field"
          @click="edit(part.field)"
        >
          {{ part.text }}
        </button>
        <span v-else>{{ i ? part.text : part.text.replace(/^\w+(?= )/, (first) => (first === verb.name ? '' : first)) }}</span>
      </template>
    </p>
    <p v-else class="words soft">{{ preview.hint || verb.hint }}</p>
    <button class="link soft" @click="worksheet.folded = false">open the sheet <kbd>q</kbd></button>
    <div v-if="choosing" class="verbs" role="group" aria-label="Verbs">
      <section v-for="purpose in PURPOSES" :key="purpose">
        <h3>{{ purpose }}</h3>
        <button
          v-for="v in VERBS.filter((x) => x.purpose === purpose)"
          :key="v.id"
          :aria-current="v.id === worksheet.verb"
          @click="choose(v.id)"
        >
          {{ v.name }} <kbd>{{ v.written }}</kbd>
        </button>
      </section>
    </div>
  </div>
</template>

<style scoped>
.sentence {
  position: relative;
  display: flex;
  align-items: baseline;
  gap: 10px;
  padding: 7px 12px 2px;
  font-size: 14px;
}
.verb {
  flex: none;
  padding: 2px 10px;
  border: 0;
  border-radius: 3px;
  background: var(--ink);
  color: var(--sheet);
  font: inherit;
  font-weight: 700;
  cursor: pointer;
}
.words {
  flex: 1;
  min-width: 0;
  line-height: 21px;
}
.part {
  padding: 0 1px;
  border: 0;
  border-bottom: 1px solid var(--ink);
  background: none;
  color: var(--ink);
  font: inherit;
  cursor: pointer;
}
.part:hover,
.part.open {
  background: var(--sheet);
}
.part.missing {
  border-bottom: 1px dashed var(--fresh);
  color: var(--fresh);
  font-weight: 650;
}
.link {
  flex: none;
}
kbd {
  font: 12px var(--mono);
}
.verbs {
  position: absolute;
  bottom: 100%;
  left: 12px;
  z-index: 20;
  display: flex;
  gap: 22px;
  padding: 10px 14px 12px;
  border: 1px solid var(--ink);
  border-radius: 3px;
  background: var(--sheet);
}
.verbs h3 {
  font-size: 11px;
  font-weight: 600;
  color: var(--soft);
}
.verbs button {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  width: 100%;
  padding: 3px 4px;
  border: 0;
  background: none;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.verbs button:hover,
.verbs button[aria-current='true'] {
  background: var(--sand-deep);
}
</style>
