<script setup lang="ts">
// Paste: what the clipboard holds, where it lands, and what fits where units differ.
import { computed, ref } from 'vue'
import { api, asked, sentence, type AnyRequest } from '../api/client'
import { useSelection } from '../state/selection'
import { useAsking } from '../state/asking'
import { useClipboard } from '../state/clipboard'
import { usePreviewOf } from '../state/preview'
import { useSession } from '../state/session'
import SpotField from '../parts/fields/SpotField.vue'
import { setUp } from '../state/setUps'
import { readUntil } from '../state/reading'
import Setting from '../parts/fields/Setting.vue'
import ChoiceField from '../parts/fields/ChoiceField.vue'

const session = useSession()
const selection = useSelection()
const clipboard = useClipboard()
const at = ref<number | null>(null)
const onto = setUp<'named' | 'chosen'>('paste.onto', 'named')
const how = setUp<'unit' | 'range'>('paste.how', 'unit')
const parameter = computed(() => session.lanes.get(selection.lanes[0] ?? '')?.parameter ?? null)
const question = computed(() => {
  const id = session.data?.id
  if (!clipboard.text || id === undefined) return null
  const target = onto.value === 'chosen' ? parameter.value : null
  return { id, body: { text: clipboard.text, at: at.value, onto: target, how: how.value } }
})
const { answer, problem, current } = useAsking(
  () => question.value,
  ({ id, body }, signal) => asked(api.POST('/api/sessions/{id}/clipboard', { params: { path: { id } }, body, signal })),
)
const request = computed<AnyRequest | null>(() => answer.value?.request ?? null)
usePreviewOf(request)
readUntil(current)

const start = computed(() => (request.value?.verb === 'paste' ? (request.value.at ?? request.value.start) : 0))
const names = computed(() => (request.value?.verb === 'paste' ? request.value.clips.map((c) => `${c.track} ${c.name}`) : []))
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset>
      <legend>From the clipboard</legend>
      <div class="field" data-field="clips">
        <span>Lanes</span
        ><span>{{
          names.length > 2 ? `${names.slice(0, 2).join(', ')} and ${names.length - 2} more` : names.join(', ') || 'nothing yet'
        }}</span>
      </div>
      <p v-if="problem" class="problem" role="alert">{{ sentence(problem) }}</p>
      <p v-else-if="!names.length" class="soft">
        Copy a range of the chosen lanes with Ctrl C, here or in another window, then Ctrl V.
      </p>
    </fieldset>
    <fieldset>
      <legend>To</legend>
      <SpotField v-model="at" of="paste/at" asks="Paste at" :usual="start" none="same place" cursor />
      <ChoiceField
        v-model="onto"
        data-field="onto"
        :choices="[
          { value: 'named', words: 'the same names' },
          { value: 'chosen', words: 'the chosen lane', off: !parameter },
        ]"
        label="Onto"
      />
      <Setting v-model="how" of="paste/how" />
    </fieldset>
  </form>
</template>
