<script setup lang="ts">
// Clear: a range, lanes, all lanes of tracks, or the session's; each says what it takes, the widest are confirmed.
import { computed, ref, watch, watchEffect } from 'vue'
import type { AnyRequest } from '../api/client'
import { useBench } from '../state/bench'
import { useWorksheet } from '../state/worksheet'
import { useSelection } from '../state/selection'
import { usePreviewOf } from '../state/preview'
import { useSession } from '../state/session'
import { setUp } from '../state/setUps'
import Setting from '../parts/fields/Setting.vue'
import ChoiceField from '../parts/fields/ChoiceField.vue'
import LanesField from '../parts/fields/LanesField.vue'
import RangeField from '../parts/fields/RangeField.vue'

type Scope = 'range' | 'lanes' | 'track' | 'tracks' | 'session'
const session = useSession()
const worksheet = useWorksheet()
const selection = useSelection()
const bench = useBench()
const scope = setUp<Scope>('clear.scope', 'range')
const way = setUp<'seal' | 'bridge'>('clear.way', 'seal')
const rest = setUp<'keep' | 'default' | 'cursor' | 'mean'>('clear.rest', 'keep')
const typed = ref('')

const owners = computed(() => [...new Set(selection.lanes.map((id) => session.lanes.get(id)?.track ?? ''))].filter(Boolean))
const tracks = computed(() => (scope.value === 'track' ? owners.value.slice(0, 1) : owners.value))
const count = computed(() => {
  const lanes = session.data?.lanes ?? []
  return scope.value === 'session' ? lanes.length : lanes.filter((lane) => tracks.value.includes(lane.track)).length
})
const SCOPES: { value: Scope; words: string }[] = [
  { value: 'range', words: 'this range' },
  { value: 'lanes', words: 'these lanes' },
  { value: 'track', words: 'the track' },
  { value: 'tracks', words: 'the tracks' },
  { value: 'session', words: 'the session' },
]
const needsNumber = computed(() => scope.value === 'tracks' || scope.value === 'session')
watch([scope, () => selection.lanes, () => session.data?.revision], () => (typed.value = ''))
watchEffect(() => (worksheet.confirmed = !needsNumber.value || typed.value.trim() === String(count.value)))

const request = computed<AnyRequest | null>(() => {
  const common = { way: way.value, static: rest.value, cursor: bench.cursor }
  const none = { lanes: [], tracks: [], start: null, end: null }
  if (scope.value === 'session') return { verb: 'clear', scope: 'session', ...none, ...common }
  if (!selection.lanes.length) return null
  if (scope.value === 'range')
    return selection.range
      ? { verb: 'clear', scope: 'range', lanes: selection.lanes, tracks: [], ...selection.range, ...common }
      : null
  if (scope.value === 'lanes') return { verb: 'clear', scope: 'lanes', ...none, lanes: selection.lanes, ...common }
  return { verb: 'clear', scope: 'tracks', ...none, tracks: tracks.value, ...common }
})
const draft = computed<AnyRequest>(() => {
  if (request.value) return request.value
  const common = { way: way.value, static: rest.value, cursor: bench.cursor, tracks: tracks.value, start: null, end: null }
  const asked = scope.value === 'track' ? 'tracks' : scope.value
  return { verb: 'clear', scope: asked, lanes: selection.lanes, ...common }
})
usePreviewOf(request, undefined, draft)
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset>
      <legend>What</legend>
      <ChoiceField v-model="scope" data-field="scope" :choices="SCOPES" bare asks="What to clear" />
      <LanesField data-field="lanes tracks" v-if="scope !== 'session'" label="Lanes to clear" />
      <RangeField data-field="start end" v-if="scope === 'range'" />
      <p v-if="tracks.length && (scope === 'track' || scope === 'tracks')" class="soft">
        All lanes of {{ tracks.map((t) => session.tracks.get(t)?.name).join(', ') }}, on view or not.
      </p>
    </fieldset>
    <fieldset>
      <legend>How</legend>
      <Setting v-if="scope === 'range'" v-model="way" of="clear/way" />
      <Setting v-else v-model="rest" of="clear/static" />
      <div v-if="needsNumber" class="field" data-field="scope tracks">
        <label for="clear-count">Type {{ count }} to confirm that many lanes</label>
        <input id="clear-count" v-model="typed" class="words" autocomplete="off" />
      </div>
    </fieldset>
  </form>
</template>
