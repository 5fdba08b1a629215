<script setup lang="ts">
// Retarget: one lane's curve onto parameters of other units, by a mapping shown as a graph with real units at both ends.
import { computed, ref, watch } from 'vue'
import { api, asked, type AnyRequest, type ParameterOut } from '../api/client'
import { inBeats } from '../lib/fields'
import { toAxis } from '../lib/geometry'
import { valueText } from '../lib/said'
import { useAsking } from '../state/asking'
import { askedOf } from '../state/workedOut'
import { useSelection } from '../state/selection'
import { usePreviewOf } from '../state/preview'
import { useReopened } from '../state/reopened'
import { useSession } from '../state/session'
import Setting from '../parts/fields/Setting.vue'
import SpotField from '../parts/fields/SpotField.vue'
import { setUp } from '../state/setUps'
import { useWorksheet } from '../state/worksheet'
import EdgesField from '../parts/fields/EdgesField.vue'
import KeepField from '../parts/fields/KeepField.vue'
import LanesField from '../parts/fields/LanesField.vue'
import MappingGraph from '../parts/fields/MappingGraph.vue'
import RangeField from '../parts/fields/RangeField.vue'
import RecipeField from '../parts/fields/RecipeField.vue'
import NumberField from '../parts/fields/NumberField.vue'
import TypedField from '../parts/fields/TypedField.vue'
import Chooser from '../parts/Chooser.vue'

type Mapping = 'unit' | 'range' | 'fit' | 'around'
const session = useSession()
const worksheet = useWorksheet()
const selection = useSelection()
const targets = setUp<string[]>('retarget.targets', [])
const spans = setUp<Record<string, { low: number; high: number }>>('retarget.spans', {})
const at = setUp<number | null>('retarget.at', null)
const how = setUp<'copy' | 'move'>('retarget.how', 'copy')
const mapping = setUp<Mapping>('retarget.mapping', 'fit')
const upsideDown = setUp('retarget.upsideDown', false)
const anchor = setUp<number | null>('retarget.anchor', null)
const toAnchor = setUp<number | null>('retarget.toAnchor', null)
const depth = setUp('retarget.depth', 1)
const hysteresis = setUp('retarget.hysteresis', 0.2)
const edges = setUp<'seal' | 'ramp'>('retarget.edges', 'seal')
const ramp = setUp('retarget.ramp', inBeats(0.125))
const lowest = setUp('retarget.lowest', 0)
/** Which of the targets the graph shows. */
const shown = ref(0)

function takeUp(again: Extract<AnyRequest, { verb: 'retarget' }>): void {
  targets.value = again.targets.map((t) => t.parameter)
  spans.value = Object.fromEntries(
    again.targets.flatMap((t) => (t.low != null && t.high != null ? [[t.parameter, { low: t.low, high: t.high }]] : [])),
  )
  at.value = again.at ?? null
  how.value = again.how
  mapping.value = again.mapping
  upsideDown.value = again.upside_down
  anchor.value = again.anchor
  toAnchor.value = again.to_anchor ?? null
  depth.value = again.depth
  hysteresis.value = again.hysteresis
  edges.value = again.edges
  if (again.ramp) ramp.value = inBeats(again.ramp)
}
useReopened('retarget', takeUp)

const from = computed(() => at.value ?? selection.range?.start ?? 0)
const lane = computed(() => session.lanes.get(selection.lanes[0] ?? ''))
const source = computed(() => (lane.value ? session.parameters.get(lane.value.parameter)?.parameter : undefined))
const options = computed(() =>
  (session.data?.tracks ?? []).flatMap((t) => t.parameters.map((p) => ({ value: p.id, label: `${t.name} ${p.name}` }))),
)
const labelOf = computed(() => new Map(options.value.map((o) => [o.value, o.label])))
/** A target's own name, where no other of them is called the same. */
const briefly = (p: ParameterOut) =>
  parameters.value.some((other) => other !== p && other.name === p.name) ? labelOf.value.get(p.id) : p.name
const parameters = computed(() => targets.value.flatMap((id) => session.parameters.get(id)?.parameter ?? []))
const target = computed(() => parameters.value[Math.min(shown.value, parameters.value.length - 1)])
function spanOf(p: ParameterOut): { low: number; high: number } {
  return spans.value[p.id] ?? { low: p.low, high: p.high }
}
const stepped = computed(() => parameters.value.some((p) => p.kind !== 'continuous'))
const draft = computed<Extract<AnyRequest, { verb: 'retarget' }>>(() => ({
  verb: 'retarget',
  lane: lane.value?.id ?? '',
  targets: parameters.value.map((p) => ({
    parameter: p.id,
    low: spans.value[p.id]?.low ?? null,
    high: spans.value[p.id]?.high ?? null,
  })),
  start: selection.range?.start ?? null,
  end: selection.range?.end ?? null,
  at: at.value,
  how: how.value,
  mapping: mapping.value,
  upside_down: upsideDown.value,
  anchor: anchor.value ?? lowest.value,
  to_anchor: toAnchor.value,
  depth: depth.value,
  hysteresis: hysteresis.value,
  edges: edges.value,
  ramp: edges.value === 'ramp' ? ramp.value.beats : 0,
  set_to_read: false,
}))
const request = computed(() => (lane.value && parameters.value.length ? draft.value : null))
usePreviewOf(request, undefined, draft)

const { answer: graph } = useAsking(askedOf(request), ({ id, request }, signal) =>
  asked(api.POST('/api/sessions/{id}/mapping', { params: { path: { id } }, body: { request }, signal })),
)
// The lowest the source goes to is what "around" starts from; kept, as the graph of another mapping spans more.
watch([graph, lane, () => selection.range], () => {
  if (graph.value && mapping.value === 'fit') lowest.value = graph.value.low
})
/** Whether a number means the same on the source and on every target. */
const allSame = computed(() => !!graph.value?.targets.length && graph.value.targets.every((t) => t.same_unit))
watch([graph, allSame], ([known, same]) => {
  if (known && !same && mapping.value === 'unit') mapping.value = 'fit'
})
const offers = computed(() => new Map((graph.value?.targets ?? []).map((t) => [t.parameter, t.offers])))
const ends = computed(() => {
  const p = target.value
  const worked = graph.value?.targets.find((t) => t.parameter === p?.id)
  if (!p) return null
  const side = (value: number) => ({
    value,
    position: (toAxis(p, value) - toAxis(p, p.low)) / (toAxis(p, p.high) - toAxis(p, p.low)),
  })
  if (mapping.value === 'fit') {
    // While an end is dragged it is drawn where the pointer has it; the curve follows with the preview.
    const { low, high } = spanOf(p)
    return upsideDown.value ? { low: side(high), high: side(low) } : { low: side(low), high: side(high) }
  }
  if (worked?.low == null || worked.high == null) return null
  return {
    low: { value: worked.low, position: worked.low_position! },
    high: { value: worked.high, position: worked.high_position! },
  }
})

function land(p: ParameterOut, span: Partial<{ low: number; high: number }>): void {
  spans.value = { ...spans.value, [p.id]: { ...spanOf(p), ...span } }
}
function moveEnd(end: 'low' | 'high', value: number): void {
  const other = end === 'low' ? 'high' : 'low'
  if (target.value) land(target.value, { [upsideDown.value ? other : end]: value })
}
function takeOffer(p: ParameterOut, index: string): void {
  const offer = offers.value.get(p.id)?.[Number(index)]
  if (offer) land(p, { low: offer.low, high: offer.high })
}
</script>

<template>
  <form class="form retarget" @submit.prevent>
    <fieldset>
      <legend>From</legend>
      <LanesField data-field="lane" label="Lane to retarget" first />
      <p v-if="selection.lanes.length > 1" class="soft">Only the first of the chosen lanes is retargeted.</p>
      <RangeField data-field="start end" />
      <KeepField v-model="how" data-field="how" />
    </fieldset>
    <MappingGraph
      v-if="source && target && graph && ends"
      class="graph"
      :source="source"
      :target="target"
      :from="{ low: graph.low, high: graph.high }"
      :ends="ends"
      :time="graph.time"
      :movable="mapping === 'fit'"
      @move="moveEnd"
    />
    <p v-else class="graph soft">The mapping is drawn here once both sides are chosen.</p>
    <fieldset>
      <legend><span>To</span> <RecipeField verb="retarget" :request="request" /></legend>
      <Setting v-model="targets" of="retarget/targets" asks="Parameters to drive" :options="options" none="choose a parameter" />
      <Setting v-model="mapping" of="retarget/mapping" :off="!allSame ? ['unit'] : []" />
      <template v-if="mapping === 'fit'">
        <div v-for="(p, i) in parameters" :key="p.id" class="field" data-field="low high">
          <button
            v-if="parameters.length > 1"
            class="link target"
            type="button"
            :class="{ on: p === target }"
            :title="`Show ${labelOf.get(p.id)} on the graph`"
            @click="shown = i"
          >
            {{ briefly(p) }}
          </button>
          <span v-else>Land between</span>
          <span class="pair">
            <TypedField
              label="Lowest lands on"
              kind="value"
              :parameter="p.id"
              :text="valueText(p, spanOf(p).low)"
              @read="(v) => land(p, { low: v })"
            />
            and
            <TypedField
              label="Highest lands on"
              kind="value"
              :parameter="p.id"
              :text="valueText(p, spanOf(p).high)"
              @read="(v) => land(p, { high: v })"
            />
            <Chooser
              v-if="offers.get(p.id)?.length"
              class="offers"
              model-value=""
              none="useful"
              :label="`Useful spans of ${p.name}`"
              :options="offers.get(p.id)!.map((o, n) => ({ value: String(n), label: `${o.text}, ${o.why}` }))"
              :upwards="worksheet.folded"
              @update:model-value="(n) => takeOffer(p, n)"
            />
          </span>
        </div>
      </template>
      <div v-if="mapping === 'around' && source && target" class="field" data-field="mapping anchor to_anchor depth">
        <span class="pair">
          <TypedField
            label="Anchor"
            kind="value"
            :parameter="source.id"
            :text="valueText(source, anchor ?? lowest)"
            @read="(v) => (anchor = v)"
          />
          becomes
          <TypedField
            label="Anchor becomes"
            kind="value"
            :parameter="target.id"
            :text="valueText(target, toAnchor ?? target.value)"
            @read="(v) => (toAnchor = v)"
          />
        </span>
        <span>depth <NumberField label="Depth" :value="depth" :usual="1" live @read="(n) => (depth = n)" /></span>
      </div>
      <SpotField v-model="at" of="retarget/at" asks="Retarget starting at" :usual="from" none="same place" />
      <Setting v-if="stepped" v-model="hysteresis" of="retarget/hysteresis" asks="Hysteresis in steps" :usual="0.2" />
      <Setting v-model="upsideDown" of="retarget/upside_down" tick />
      <EdgesField data-field="edges ramp" v-model:edges="edges" v-model:ramp="ramp" :start="from" />
    </fieldset>
  </form>
</template>

<style scoped>
@media (width >= 1100px) {
  .retarget {
    grid-template-columns: minmax(0, 1fr) 206px minmax(0, 1.12fr);
    gap: 0 12px;
  }
}
.graph {
  padding-top: 18px;
}
.retarget :deep(.length) {
  display: none;
}
.retarget :deep(.field > .el-radio-group) {
  flex-wrap: nowrap;
}
.offers {
  font: 12px var(--sans);
  height: 20px;
  width: 64px;
  border: 0;
  border-bottom: 1px dotted var(--soft);
  background: transparent;
  color: var(--soft);
}
.retarget .field > .target {
  flex: 0 1 auto;
  max-width: 15ch;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.target.on {
  font-weight: 700;
  text-decoration: none;
}
.form.retarget .el-select {
  width: 176px;
}
</style>
