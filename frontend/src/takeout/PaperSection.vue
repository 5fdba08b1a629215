<script setup lang="ts">
// The session on paper: a recall sheet, and strips as a picture.
import { computed, ref } from 'vue'
import ChoiceButtons from '../parts/fields/ChoiceButtons.vue'
import Chooser from '../parts/Chooser.vue'
import { api, asked } from '../api/client'
import { useBench } from '../state/bench'
import { PICTURE_FORMS, usePicture } from '../state/picture'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'

const session = useSession()
const selection = useSelection()
const bench = useBench()
const picture = usePicture()
const form = ref<'pdf' | 'html' | 'txt'>('pdf')
const short = ref(false)
const since = ref('')
const marks = ref<{ value: string; label: string }[]>([])
void session.guarded(async () => {
  const log = await asked(api.GET('/api/sessions/{id}/log', { params: { path: { id: session.data!.id } } }))
  marks.value = log.marks.map((m) => ({ value: String(m.number), label: m.name }))
})
const address = computed(() => {
  const more = since.value ? `&since=${since.value}` : ''
  return `/api/sessions/${session.data!.id}/export/sheet?form=${form.value}&short=${short.value}${more}`
})
const span = computed(() => selection.range ?? { start: 0, end: bench.length })
const said = computed(() => `${session.position(span.value.start)} to ${session.position(span.value.end)}`)
const failed = ref('')
async function take(): Promise<void> {
  failed.value = await picture.take(span.value, picture.parameters)
}
const FORMS = [
  { value: 'pdf', words: 'PDF' },
  { value: 'html', words: 'a page' },
  { value: 'txt', words: 'plain text' },
]
</script>

<template>
  <section aria-label="A recall sheet">
    <h2>A recall sheet</h2>
    <p class="soft">What stands still on each track, its devices, groups and sends; what moves, where, from what to what.</p>
    <p class="line">
      <ChoiceButtons v-model="form" :choices="FORMS" asks="The sheet as" />
      <ElCheckbox v-model="short" label="short: only what moves, its first moves" size="small" />
      <Chooser
        v-if="marks.length"
        v-model="since"
        label="What changed since"
        :options="[
          { value: '', label: 'nothing of what changed' },
          ...marks.map((m) => ({ ...m, label: `what changed since ${m.label}` })),
        ]"
      />
    </p>
    <a class="button" :href="address" download>Take the sheet</a>
  </section>
  <section aria-label="A picture">
    <h2>A picture of strips</h2>
    <p class="soft">
      {{ picture.counting(picture.parameters) }}, {{ said }}: the chosen lanes where several are, else those on the bench.
    </p>
    <p class="line">
      <ChoiceButtons
        v-model="picture.form"
        :choices="PICTURE_FORMS.map((value) => ({ value, words: value.toUpperCase() }))"
        asks="The picture as"
      />
      <ElCheckbox v-model="picture.sound" label="with the sound behind levels" size="small" />
    </p>
    <ElButton type="primary" :disabled="!picture.parameters.length" @click="take">Take the picture</ElButton>
    <p v-if="failed" class="trouble" role="alert">{{ failed }}</p>
  </section>
</template>

<style scoped>
h2 {
  font-size: 15px;
}
section {
  padding: 16px 0;
  border-bottom: 1px solid var(--line);
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 16px;
  margin: 6px 0 10px;
}
.trouble {
  color: var(--fresh);
  font-weight: 600;
}
</style>
