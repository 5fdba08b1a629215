<script setup lang="ts">
// A phrase of the session: its picture and its name, the numbers of its recipe; every place follows. Or it is deleted.
import { computed, ref, shallowRef, watch } from 'vue'
import { api, asked, type AnyRequest, type Schemas } from '../../api/client'
import { usePreviewOf } from '../../state/preview'
import { useSession } from '../../state/session'
import { useWorksheet } from '../../state/worksheet'
import Setting from '../../parts/fields/Setting.vue'
import Spark from '../../parts/Spark.vue'
import { counted } from '../../lib/words'
import PhraseChart from '../../parts/fields/PhraseChart.vue'
import ShapeFields from './ShapeFields.vue'

const session = useSession()
const worksheet = useWorksheet()
const options = computed(() => (session.data?.linked.phrases ?? []).map((p) => ({ value: `phrase:${p.id}`, label: p.name })))
const phrase = computed(() => session.phrases.get(worksheet.what.replace(/^phrase:/, '')))
const name = ref('')
const shape = ref<Schemas['Shape'] | null>(null)
const deleting = ref(false)
/** Its points as they are, and as they were changed here. */
const whole = shallowRef<Schemas['GivenPhrase'] | null>(null)
const points = shallowRef<Schemas['ClipPoint'][]>([])
watch(
  phrase,
  (now) => {
    name.value = now?.name ?? ''
    shape.value = (now?.shape as Schemas['Shape'] | null) ?? null
    deleting.value = false
  },
  { immediate: true },
)
watch(
  [() => phrase.value?.id, () => session.data?.revision],
  async ([wanted]) => {
    whole.value = null
    points.value = []
    const id = session.data?.id
    if (!wanted || id === undefined || phrase.value?.shape) return
    await session.guarded(async () => {
      const found = await asked(api.GET('/api/sessions/{id}/phrases/{phrase}', { params: { path: { id, phrase: wanted } } }))
      if (phrase.value?.id !== wanted) return
      whole.value = found
      points.value = found.points
    })
  },
  { immediate: true },
)
const pointsChanged = computed(() => !!whole.value && points.value !== whole.value.points)
const draft = computed<AnyRequest>(() => ({
  verb: 'change phrase',
  phrase: phrase.value?.id ?? '',
  name: name.value.trim() && name.value.trim() !== phrase.value?.name ? name.value : null,
  points: pointsChanged.value ? points.value : [],
  shape: JSON.stringify(shape.value) === JSON.stringify(phrase.value?.shape) ? null : shape.value,
  length: null,
  delete: deleting.value,
}))
const request = computed(() => {
  const wanted = draft.value as Extract<AnyRequest, { verb: 'change phrase' }>
  return phrase.value && (wanted.name != null || wanted.shape || wanted.points.length || wanted.delete) ? draft.value : null
})
const hint = () => (phrase.value ? 'Change its name or its numbers, or delete it.' : 'Choose a phrase of this session.')
usePreviewOf(request, hint, draft)
</script>

<template>
  <fieldset>
    <Setting
      v-model="worksheet.what"
      of="change phrase/phrase"
      asks="Phrase to change"
      none="choose a phrase"
      :options="options"
    />
    <Setting v-if="phrase" v-model="name" of="change phrase/name" />
    <p v-if="phrase" class="soft">
      {{ +phrase.length.toFixed(4) }} beats, {{ counted(phrase.points, 'point') }}, made for {{ phrase.made_for }};
      {{ counted(phrase.places, 'place') }} on {{ counted(phrase.tracks, 'track') }}.
    </p>
  </fieldset>
  <fieldset v-if="phrase">
    <template v-if="shape">
      <Spark :picture="{ family: 'level', ...phrase.picture }" :width="240" :height="44" />
      <ShapeFields v-model="shape" :start="0" />
    </template>
    <div v-else-if="whole" data-field="points">
      <PhraseChart v-model="points" :length="whole.length" :axis="whole.axis" :low="whole.low" :high="whole.high" />
      <button v-if="pointsChanged" class="link soft" type="button" @click="points = whole.points">as it was</button>
    </div>
    <div class="field" data-field="delete">
      <button v-if="!deleting" class="link" type="button" @click="deleting = true">
        delete it, its places become plain points
      </button>
      <button v-else class="link" type="button" @click="deleting = false">keep it</button>
    </div>
  </fieldset>
</template>

<style scoped>
.words {
  width: 26ch !important;
}
</style>
