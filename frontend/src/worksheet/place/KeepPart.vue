<script setup lang="ts">
// What a lane does over a range becomes a phrase, in the session and in the book.
import { computed, ref } from 'vue'
import Setting from '../../parts/fields/Setting.vue'
import { setUp } from '../../state/setUps'
import type { AnyRequest } from '../../api/client'
import { useBench } from '../../state/bench'
import { usePreviewOf } from '../../state/preview'
import { useSelection } from '../../state/selection'
import GoField from '../../parts/fields/GoField.vue'
import LanesField from '../../parts/fields/LanesField.vue'
import RangeField from '../../parts/fields/RangeField.vue'

const selection = useSelection()
const bench = useBench()
const name = ref('')
const place = setUp('keep.place', true)
const go = ref<string | null>(null)
const draft = computed<AnyRequest>(() => {
  const span = selection.range ?? { start: 0, end: bench.length }
  return {
    verb: 'keep phrase',
    lane: selection.lanes[0] ?? '',
    ...span,
    name: name.value,
    place: place.value,
    alternative: go.value,
  }
})
const request = computed(() => (selection.lanes.length && name.value.trim() ? draft.value : null))
const hint = () => (selection.lanes.length ? 'Give the phrase a name.' : 'Drag over a strip to choose what to keep.')
usePreviewOf(request, hint, draft)
</script>

<template>
  <fieldset>
    <LanesField data-field="lane" label="Lane to keep from" first />
    <GoField v-model="go" />
    <RangeField data-field="start end" />
  </fieldset>
  <fieldset>
    <Setting v-model="name" of="keep phrase/name" none="a name" />
    <Setting v-if="!go" v-model="place" of="keep phrase/place" asks="What becomes of the lane" />
    <p class="soft">It is in this session, and in the phrase book for every other.</p>
  </fieldset>
</template>

<style scoped>
.words {
  width: 26ch !important;
}
</style>
