<script setup lang="ts">
// Embed / lift: automation between a track and its regions with nothing heard differently; gaps filled; which lane wins.
import { computed, ref } from 'vue'
import type { AnyRequest } from '../api/client'
import { useFindings } from '../state/curves'
import { useBench } from '../state/bench'
import { useWorksheet } from '../state/worksheet'
import { useSelection } from '../state/selection'
import { usePreviewOf } from '../state/preview'
import { useSession } from '../state/session'
import { setUp } from '../state/setUps'
import Setting from '../parts/fields/Setting.vue'
import ChoiceField from '../parts/fields/ChoiceField.vue'
import RegionsField from '../parts/fields/RegionsField.vue'
import Chooser from '../parts/Chooser.vue'

const session = useSession()
const worksheet = useWorksheet()
const selection = useSelection()
const bench = useBench()
const scope = setUp<'chosen' | 'view' | 'all'>('embed.scope', 'all')
const how = setUp<'hold' | 'join'>('embed.how', 'hold')
const wins = ref<'region' | 'track'>(session.data?.precedence === 'track' ? 'region' : 'track')

const chosenNames = computed(() => {
  const ids = new Set(selection.lanes.map((id) => session.lanes.get(id)?.parameter))
  return [...ids].map((id) => session.parameters.get(id ?? '')?.parameter.name).filter(Boolean)
})
const parameters = computed(() => {
  if (scope.value === 'all') return []
  if (scope.value === 'view') return bench.pins
  return [...new Set(selection.lanes.flatMap((id) => session.lanes.get(id)?.parameter ?? []))]
})
const asked = computed(() => (worksheet.embedding === 'fill' ? bench.strips : []))
const found = useFindings(asked)
/** Everything found on view that filling would mend. */
const gaps = computed(() => asked.value.flatMap((p) => found.value.get(p) ?? []).filter((f) => f.mend?.verb === 'fill gap'))
const gapOptions = computed(() =>
  gaps.value.map((g, i) => {
    const span = `${session.position(g.start)} to ${session.position(g.end)}`
    return { value: String(i), label: `${session.parameterName(g.parameter)}, ${span}: ${g.words}` }
  }),
)
const gapIndex = computed({
  get: () => gaps.value.findIndex((g) => g.parameter === selection.finding?.parameter && g.start === selection.finding.start),
  set: (i: number) => {
    selection.finding = gaps.value[i] ?? null
    if (selection.finding) bench.goTo(selection.finding.parameter, selection.finding)
  },
})

const request = computed<AnyRequest | null>(() => {
  const { embedding } = worksheet
  const { regions, finding } = selection
  if (embedding === 'precedence') return { verb: 'set precedence', wins: wins.value }
  if (embedding === 'fill') return finding?.mend?.verb === 'fill gap' ? { ...finding.mend, how: how.value } : null
  if (!regions.length || (scope.value !== 'all' && !parameters.value.length)) return null
  const common = { regions, parameters: parameters.value }
  return embedding === 'embed' ? { verb: 'embed', ...common } : { verb: 'lift', ...common }
})
const draft = computed<AnyRequest | null>(() => {
  if (request.value || worksheet.embedding === 'fill') return request.value
  const common = { regions: selection.regions, parameters: parameters.value }
  return worksheet.embedding === 'lift' ? { verb: 'lift', ...common } : { verb: 'embed', ...common }
})
const hint = () => {
  if (worksheet.embedding === 'fill') return 'Click a wavy line at the foot of a strip, or choose a gap here.'
  return selection.regions.length
    ? 'Choose lanes, or take all parameters.'
    : 'Click a region’s name on a strip, or choose one here.'
}
usePreviewOf(request, hint, draft)
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset>
      <legend>What</legend>
      <ChoiceField
        v-model="worksheet.embedding"
        data-field="what"
        :choices="[
          { value: 'embed', words: 'embed' },
          { value: 'lift', words: 'lift' },
          { value: 'fill', words: 'fill a gap' },
          { value: 'precedence', words: 'which lane wins' },
        ]"
        bare
        asks="Embed, lift, fill or precedence"
      />
      <template v-if="worksheet.embedding === 'embed' || worksheet.embedding === 'lift'">
        <RegionsField data-field="regions" label="Regions to embed into or lift from" />
        <ChoiceField
          v-model="scope"
          data-field="parameters"
          :choices="[
            { value: 'chosen', words: 'the chosen', title: chosenNames.join(', ') },
            { value: 'view', words: 'those on view' },
            { value: 'all', words: 'all' },
          ]"
          label="Parameters"
          asks="Which parameters"
        />
      </template>
      <div v-else-if="worksheet.embedding === 'fill'" class="field" data-field="parameter start end">
        <span>Gap</span>
        <Chooser
          :model-value="String(gapIndex)"
          label="Gap"
          :none="gaps.length ? 'choose a gap' : 'no gap on view jumps or drifts'"
          :options="gapOptions"
          :upwards="worksheet.folded"
          @update:model-value="(i) => (gapIndex = Number(i))"
        />
      </div>
      <Setting v-else v-model="wins" of="set precedence/wins" asks="Which lane wins" />
    </fieldset>
    <fieldset>
      <legend>How</legend>
      <p v-if="worksheet.embedding === 'embed'" class="soft">
        What the track does inside the regions becomes the regions’ own and travels with them. In the gaps the track keeps its
        curve. Nothing is heard differently.
      </p>
      <p v-else-if="worksheet.embedding === 'lift'" class="soft">
        What the regions do goes onto the track, where it stays when they move. Nothing is heard differently.
      </p>
      <template v-else-if="worksheet.embedding === 'fill'">
        <Setting v-model="how" of="fill gap/how" />
        <p class="soft">
          {{
            selection.finding
              ? `${session.parameterName(selection.finding.parameter)} ${selection.finding.words}.`
              : 'Gaps that jump or drift are marked with a wavy line at the foot of a strip.'
          }}
        </p>
      </template>
      <p v-else class="soft">
        In this session {{ session.data?.precedence }} lanes win now. What would be heard differently is drawn on the strips.
      </p>
    </fieldset>
  </form>
</template>

<style scoped>
fieldset > p {
  max-width: 46ch;
  padding-top: 2px;
}
.chooser {
  width: 330px;
}
</style>
