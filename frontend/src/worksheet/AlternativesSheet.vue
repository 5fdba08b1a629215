<script setup lang="ts">
// Alternatives: keep what lanes do aside, use another go or a range of one, give it another name, or let it go.
import { computed } from 'vue'
import type { AnyRequest } from '../api/client'
import { momentText } from '../lib/moments'
import Setting from '../parts/fields/Setting.vue'
import ChoiceField from '../parts/fields/ChoiceField.vue'
import EdgesField from '../parts/fields/EdgesField.vue'
import LanesField from '../parts/fields/LanesField.vue'
import PickList from '../parts/fields/PickList.vue'
import RangeField from '../parts/fields/RangeField.vue'
import { useAlternatives } from '../state/alternatives'
import { usePreviewOf } from '../state/preview'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { inBeats } from '../lib/fields'
import { setUp } from '../state/setUps'

const session = useSession()
const selection = useSelection()
const alternatives = useAlternatives()
const name = setUp('alternatives.name', '')
const renamed = setUp('alternatives.renamed', '')
const ranged = setUp('alternatives.ranged', false)
const aside = setUp('alternatives.aside', true)
const edges = setUp<'seal' | 'ramp'>('alternatives.edges', 'seal')
const ramp = setUp('alternatives.ramp', inBeats(0.125))
const backTracks = setUp<string[]>('alternatives.tracks', [])
const backRange = setUp('alternatives.backRange', false)
const WHATS = [
  { value: 'keep', words: 'keep aside' },
  { value: 'use', words: 'use' },
  { value: 'take', words: 'take a range' },
  { value: 'rename', words: 'rename' },
  { value: 'remove', words: 'let go' },
  { value: 'back', words: 'bring back' },
] as const

/** All of them, those of the chosen lanes first. */
const options = computed(() => {
  const near = new Set(alternatives.parameters)
  const all = [...session.alternatives.values()].sort((a, b) => +near.has(b.parameter) - +near.has(a.parameter))
  return all.map((a) => ({
    value: a.id,
    label: [a.name, session.parameterName(a.parameter), momentText(a.kept)].filter(Boolean).join(' · '),
  }))
})
const there = computed({
  get: () => alternatives.chosen.filter((id) => session.alternatives.has(id)),
  set: (ids) => (alternatives.chosen = ids),
})
const others = computed(() => alternatives.together(there.value).length - there.value.length)
const one = computed(() => session.alternatives.get(there.value[0] ?? ''))

const trackOptions = computed(() => (session.data?.tracks ?? []).map((t) => ({ value: t.id, label: t.name })))
const back = computed(() => ({
  verb: 'bring back' as const,
  revision: alternatives.from?.number ?? 0,
  tracks: backTracks.value,
  parameters: alternatives.parameters,
  start: backRange.value ? (selection.range?.start ?? null) : null,
  end: backRange.value ? (selection.range?.end ?? null) : null,
  edges: edges.value,
  ramp: edges.value === 'ramp' ? ramp.value.beats : 0,
}))
const draft = computed<AnyRequest>(() => {
  const some = there.value
  const range = selection.range ?? { start: null, end: null }
  if (alternatives.what === 'keep') {
    const about = ranged.value ? range : { start: null, end: null }
    return { verb: 'keep aside', parameters: alternatives.parameters, name: name.value, ...about, when: '' }
  }
  if (alternatives.what === 'use') return { verb: 'use alternatives', alternatives: some, aside: aside.value, when: '' }
  if (alternatives.what === 'take')
    return {
      verb: 'take range',
      alternatives: some,
      ...range,
      edges: edges.value,
      ramp: edges.value === 'ramp' ? ramp.value.beats : 0,
    }
  if (alternatives.what === 'back') return back.value
  if (alternatives.what === 'rename') return { verb: 'rename alternative', alternative: some[0] ?? '', name: renamed.value }
  return { verb: 'remove alternatives', alternatives: some }
})
const request = computed(() => {
  if (alternatives.what === 'keep') return alternatives.parameters.length ? draft.value : null
  if (alternatives.what === 'back') {
    const { tracks, parameters, start } = back.value
    return alternatives.from && (tracks.length || parameters.length || start !== null) ? back.value : null
  }
  if (!there.value.length || (alternatives.what === 'rename' && !renamed.value.trim())) return null
  return alternatives.what === 'take' && !selection.range && one.value?.start == null ? null : draft.value
})
const hint = () => {
  if (alternatives.what === 'keep') return 'Drag over a strip to choose whose lanes are kept aside.'
  if (alternatives.what === 'back')
    return alternatives.from
      ? 'Choose lanes, tracks or bars to bring back.'
      : 'Choose a step in the log to bring something back from.'
  if (!session.alternatives.size) return 'Nothing is kept aside yet: choose lanes and press Shift k.'
  if (alternatives.what === 'take') return 'Drag over a row under a strip, or choose an alternative and a range.'
  return alternatives.what === 'rename' ? 'Choose one, and type its name.' : 'Choose an alternative here, or under its strip.'
}
usePreviewOf(request, hint, draft)
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset>
      <legend>What</legend>
      <ChoiceField v-model="alternatives.what" data-field="what" :choices="WHATS" bare asks="What to do with alternatives" />
      <LanesField v-if="alternatives.what === 'keep'" data-field="parameters" label="Lanes to keep aside" />
      <template v-else-if="alternatives.what === 'back'">
        <p class="field" data-field="revision">
          <span>As at</span>
          <RouterLink class="link" :to="{ name: 'log' }">{{
            alternatives.from ? alternatives.from.mark || `revision ${alternatives.from.number}` : 'choose it in the log'
          }}</RouterLink>
        </p>
        <LanesField data-field="parameters" label="Lanes to bring back" />
        <Setting v-model="backTracks" of="bring back/tracks" asks="Tracks to bring back" :options="trackOptions" none="none" />
      </template>
      <div v-else class="field" data-field="alternatives alternative">
        <span class="pair">
          Alternatives
          <button
            v-if="others && (alternatives.what === 'use' || alternatives.what === 'take')"
            class="link soft"
            type="button"
            title="Those of other lanes that were kept in the same step"
            @click="there = alternatives.together(there)"
          >
            with {{ others }} kept together
          </button>
          <button
            v-if="alternatives.newest.length > 1 && (alternatives.what === 'use' || alternatives.what === 'take')"
            class="link soft"
            type="button"
            title="The newest go at each of the chosen lanes"
            @click="there = alternatives.newest"
          >
            newest of each
          </button>
        </span>
        <PickList v-model="there" :options="options" label="Alternatives" placeholder="none chosen" />
      </div>
      <RangeField v-if="alternatives.what === 'take'" data-field="start end" />
    </fieldset>
    <fieldset>
      <legend>How</legend>
      <template v-if="alternatives.what === 'keep'">
        <Setting v-model="name" of="keep aside/name" none="what it came of" />
        <div v-if="selection.range" class="field" data-field="start end">
          <ElCheckbox v-model="ranged" label="for the chosen range alone" size="small" />
        </div>
        <p class="soft">What they do now stays in use; a copy of it is kept under the strip.</p>
      </template>
      <template v-else-if="alternatives.what === 'use'">
        <Setting v-model="aside" of="use alternatives/aside" />
      </template>
      <template v-else-if="alternatives.what === 'take'">
        <EdgesField v-model:edges="edges" v-model:ramp="ramp" data-field="edges ramp" :start="selection.range?.start ?? 0" />
        <p class="soft">Inside the range it is as in the alternative; outside nothing changes.</p>
      </template>
      <template v-else-if="alternatives.what === 'back'">
        <div class="field" data-field="start end">
          <ElCheckbox v-model="backRange" label="the chosen range alone" size="small" />
        </div>
        <RangeField v-if="backRange" />
        <EdgesField
          v-if="backRange && selection.range"
          v-model:edges="edges"
          v-model:ramp="ramp"
          data-field="edges ramp"
          :start="selection.range.start"
        />
        <p class="soft">It is one new step: what came after that revision stays in the log.</p>
      </template>
      <Setting v-else-if="alternatives.what === 'rename'" v-model="renamed" of="rename alternative/name" :none="one?.name" />
      <p v-else class="soft">What is used stays as it is. Undo brings them back.</p>
    </fieldset>
  </form>
</template>

<style scoped>
.form .long {
  width: 26ch;
}
</style>
