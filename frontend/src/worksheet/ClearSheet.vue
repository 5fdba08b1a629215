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
const SCOPES: [Scope, string][] = [
  ['range', 'this range'],
  ['lanes', 'these lanes'],
  ['track', 'the track'],
  ['tracks', 'the tracks'],
  ['session', 'the session'],
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
      <div class="field" data-field="scope">
        <ElRadioGroup v-model="scope" size="small" aria-label="What to clear">
          <ElRadioButton v-for="[id, name] in SCOPES" :key="id" :value="id">{{ name }}</ElRadioButton>
        </ElRadioGroup>
      </div>
      <LanesField data-field="lanes tracks" v-if="scope !== 'session'" label="Lanes to clear" />
      <RangeField data-field="start end" v-if="scope === 'range'" />
      <p v-if="tracks.length && (scope === 'track' || scope === 'tracks')" class="soft">
        All lanes of {{ tracks.map((t) => session.tracks.get(t)?.name).join(', ') }}, on view or not.
      </p>
    </fieldset>
    <fieldset>
      <legend>How</legend>
      <div v-if="scope === 'range'" class="field" data-field="way">
        <span>Inside the range</span>
        <ElRadioGroup v-model="way" size="small" aria-label="Inside the range">
          <ElRadioButton value="seal">seal: outside stays</ElRadioButton>
          <ElRadioButton value="bridge">bridge: neighbours join</ElRadioButton>
        </ElRadioGroup>
      </div>
      <div v-else class="field" data-field="static">
        <span>Rest at</span>
        <ElRadioGroup v-model="rest" size="small" aria-label="Rest at">
          <ElRadioButton value="keep">static</ElRadioButton>
          <ElRadioButton value="default">default</ElRadioButton>
          <ElRadioButton value="cursor">at the cursor</ElRadioButton>
          <ElRadioButton value="mean">mean</ElRadioButton>
        </ElRadioGroup>
      </div>
      <div v-if="needsNumber" class="field" data-field="scope tracks">
        <label for="clear-count">Type {{ count }} to confirm that many lanes</label>
        <input id="clear-count" v-model="typed" class="words" autocomplete="off" />
      </div>
    </fieldset>
  </form>
</template>
