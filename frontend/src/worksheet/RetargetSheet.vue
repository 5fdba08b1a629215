<script setup lang="ts">
// Retarget: one lane's curve onto parameters of other units, by a mapping shown as a graph with real units at both ends.
import { computed, ref, watch } from 'vue'
import { api, asked, ServerProblem, type AnyRequest, type Schemas } from '../api/client'
import { positionText, valueText } from '../bench/geometry'
import { useBench } from '../state/bench'
import { usePreviewOf } from '../state/preview'
import { useSession } from '../state/session'
import KeepField from './KeepField.vue'
import LanesField from './LanesField.vue'
import MappingGraph from './MappingGraph.vue'
import RangeField from './RangeField.vue'
import TypedField from './TypedField.vue'

type Mapping = 'unit' | 'range' | 'fit' | 'around'
const session = useSession()
const bench = useBench()
const targets = ref<string[]>([])
const spans = ref<Record<string, { low: number; high: number }>>({})
const at = ref<number | null>(null)
const how = ref<'copy' | 'move'>('copy')
const mapping = ref<Mapping>('fit')
const upsideDown = ref(false)
const anchor = ref<number | null>(null)
const toAnchor = ref<number | null>(null)
const depth = ref('1')
const hysteresis = ref(0.2)
const numbers = ref<Schemas['NumbersOut'] | null>(null)

const again = bench.takeReopened('retarget')
if (again) {
  targets.value = again.targets.map((t) => t.parameter)
  for (const t of again.targets)
    if (t.low != null && t.high != null) spans.value[t.parameter] = { low: t.low, high: t.high }
  at.value = again.at ?? null
  how.value = again.how
  mapping.value = again.mapping
  upsideDown.value = again.upside_down
  anchor.value = again.anchor
  toAnchor.value = again.to_anchor ?? null
  depth.value = String(again.depth)
  hysteresis.value = again.hysteresis
}

const lane = computed(() => session.lanes.get(bench.chosen[0] ?? ''))
const source = computed(() => (lane.value ? session.parameters.get(lane.value.parameter)?.parameter : undefined))
const options = computed(() =>
  (session.data?.tracks ?? []).flatMap((t) => t.parameters.map((p) => ({ value: p.id, label: `${t.name} ${p.name}` }))),
)
const target = computed(() => session.parameters.get(targets.value[0] ?? '')?.parameter)
const span = computed(() => (target.value ? (spans.value[target.value.id] ?? { low: target.value.low, high: target.value.high }) : null))
const sameUnit = computed(() => !!source.value && !!target.value && source.value.unit === target.value.unit && source.value.axis === target.value.axis && source.value.kind === target.value.kind)
watch(sameUnit, (same) => {
  if (!same && mapping.value === 'unit') mapping.value = 'fit'
})

watch(
  [lane, () => bench.range, () => session.data?.revision],
  async () => {
    const id = session.data?.id
    numbers.value = null
    if (!lane.value || id === undefined) return
    const { start, end } = bench.range ?? { start: lane.value.start, end: lane.value.end }
    try {
      const body = { picked: [], lanes: [lane.value.id], start, end }
      numbers.value = await asked(api.POST('/api/sessions/{id}/selection', { params: { path: { id } }, body }))
    } catch (error) {
      if (!(error instanceof ServerProblem)) throw error
    }
  },
  { immediate: true },
)
const from = computed(() => {
  const { low, high } = numbers.value ?? {}
  return low != null && high != null ? { low, high } : null
})

const request = computed<AnyRequest | null>(() => {
  if (!lane.value || !targets.value.length) return null
  return {
    verb: 'retarget',
    lane: lane.value.id,
    targets: targets.value.map((parameter) => ({ parameter, low: spans.value[parameter]?.low ?? null, high: spans.value[parameter]?.high ?? null })),
    start: bench.range?.start ?? null,
    end: bench.range?.end ?? null,
    at: at.value,
    how: how.value,
    mapping: mapping.value,
    upside_down: upsideDown.value,
    anchor: anchor.value ?? from.value?.low ?? 0,
    to_anchor: toAnchor.value,
    depth: Number(depth.value.replace('−', '-')) || 0,
    hysteresis: Math.min(Math.max(Number(hysteresis.value) || 0, 0), 0.99),
    edges: 'seal',
    ramp: 0,
    set_to_read: false,
  }
})
usePreviewOf(request)

function land(end: 'low' | 'high', value: number): void {
  const p = target.value
  if (p) spans.value = { ...spans.value, [p.id]: { ...span.value!, [end]: value } }
}
const ends = computed(() => {
  if (!span.value || !target.value) return null
  const { low, high } = mapping.value === 'fit' ? span.value : { low: target.value.low, high: target.value.high }
  return upsideDown.value ? { low: high, high: low } : { low, high }
})
function moveEnd(end: 'low' | 'high', value: number): void {
  land(upsideDown.value ? (end === 'low' ? 'high' : 'low') : end, value)
}
</script>

<template>
  <form class="form retarget" @submit.prevent>
    <fieldset>
      <legend>From</legend>
      <LanesField label="Lane to retarget" />
      <p v-if="bench.chosen.length > 1" class="soft">Only the first of the chosen lanes is retargeted.</p>
      <RangeField />
      <KeepField v-model="how" />
    </fieldset>
    <MappingGraph
      v-if="source && target && from && ends && (mapping === 'fit' || mapping === 'range')" class="graph" :source="source" :target="target"
      :from="mapping === 'fit' ? from : { low: source.low, high: source.high }" :low="ends.low" :high="ends.high" :movable="mapping === 'fit'" @move="moveEnd"
    />
    <p v-else class="graph soft">{{ mapping === 'around' || mapping === 'unit' ? '' : 'The mapping is drawn here once both sides are chosen.' }}</p>
    <fieldset>
      <legend>To</legend>
      <div class="field">
        <span>Parameters</span>
        <ElSelectV2
          v-model="targets" :options="options" multiple filterable collapse-tags collapse-tags-tooltip :max-collapse-tags="1"
          :height="125" :item-height="25" placement="bottom-start" :fallback-placements="['bottom-start']" popper-class="low-list" size="small"
          aria-label="Parameters to drive" placeholder="choose a parameter" no-match-text="Nothing is called that"
        />
      </div>
      <div class="field">
        <span>Carry over</span>
        <ElRadioGroup v-model="mapping" size="small" aria-label="Carry over">
          <ElRadioButton value="fit">fitted</ElRadioButton>
          <ElRadioButton value="range">range</ElRadioButton>
          <ElRadioButton value="around">around</ElRadioButton>
          <ElRadioButton value="unit" :disabled="!sameUnit">number</ElRadioButton>
        </ElRadioGroup>
      </div>
      <div v-if="mapping === 'fit' && target && span" class="field">
        <span>Land between</span>
        <span class="pair">
          <TypedField label="Lowest lands on" kind="value" :parameter="target.id" :text="valueText(target, span.low)" @read="(v) => land('low', v)" />
          and
          <TypedField label="Highest lands on" kind="value" :parameter="target.id" :text="valueText(target, span.high)" @read="(v) => land('high', v)" />
        </span>
      </div>
      <div v-if="mapping === 'around' && source && target" class="field">
        <span class="pair">
          <TypedField label="Anchor" kind="value" :parameter="source.id" :text="valueText(source, anchor ?? from?.low ?? source.low)" @read="(v) => (anchor = v)" />
          becomes
          <TypedField label="Anchor becomes" kind="value" :parameter="target.id" :text="valueText(target, toAnchor ?? target.value)" @read="(v) => (toAnchor = v)" />
        </span>
        <label>depth <input v-model="depth" class="words narrow" aria-label="Depth"></label>
      </div>
      <div class="field">
        <span class="pair">
          Starting at
          <TypedField label="Retarget starting at" kind="position" :text="positionText(at ?? bench.range?.start ?? 0, session.data?.bars ?? [])" @read="(beat) => (at = beat)" />
          <button v-if="at !== null" class="link soft" type="button" @click="at = null">same place</button>
        </span>
        <label v-if="target && target.kind !== 'continuous'">hysteresis <input v-model="hysteresis" class="words narrow" aria-label="Hysteresis in steps"></label>
        <ElCheckbox v-model="upsideDown" label="upside down" size="small" />
      </div>
    </fieldset>
  </form>
</template>

<style scoped>
@media (width >= 1100px) { .retarget { grid-template-columns: minmax(0, 1fr) 186px minmax(0, 1fr); gap: 0 14px; } }
.graph { padding-top: 22px; }
.form.retarget .el-select { width: 176px; }
</style>
