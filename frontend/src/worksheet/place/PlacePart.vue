<script setup lang="ts">
// What is placed, onto which parameters, where, how often and how deep.
import { computed, onMounted, shallowRef, watch } from 'vue'
import Setting from '../../parts/fields/Setting.vue'
import { inBeats } from '../../lib/fields'
import { setUp } from '../../state/setUps'
import { api, asked, refusal, sentence, type AnyRequest, type Schemas } from '../../api/client'
import { valueText } from '../../lib/said'
import { useAsking } from '../../state/asking'
import { askedOf } from '../../state/workedOut'
import { useBench } from '../../state/bench'
import { useBook, type Given } from '../../state/book'
import { useNotices } from '../../state/notices'
import { usePreviewOf } from '../../state/preview'
import { useSelection } from '../../state/selection'
import { useSession } from '../../state/session'
import { useWorksheet } from '../../state/worksheet'
import MappingGraph from '../../parts/fields/MappingGraph.vue'
import EdgesField from '../../parts/fields/EdgesField.vue'
import TypedField from '../../parts/fields/TypedField.vue'
import DepthField from '../../parts/fields/DepthField.vue'
import { KINDS } from '../../lib/shapeKinds'
import NumberField from '../../parts/fields/NumberField.vue'
import ShapeFields from './ShapeFields.vue'
import { unitOf, USUAL_SHAPE, usualDepth } from '../../lib/usualShape'

type Shape = Schemas['Shape']
type Deep = 'range' | 'between' | 'static' | 'unit'
const session = useSession()
const worksheet = useWorksheet()
const selection = useSelection()
const bench = useBench()
const book = useBook()
const notices = useNotices()

onMounted(() => void session.guarded(() => book.fetch()))
const options = computed(() => [
  ...(session.data?.linked.phrases ?? []).map((p) => ({ value: `phrase:${p.id}`, label: `${p.name}, in this session` })),
  ...book.lines.map((p) => ({ value: `book:${p.id}`, label: p.name })),
  ...KINDS.map((kind) => ({ value: `shape:${kind}`, label: `${kind === 's' ? 'S' : kind}, a shape` })),
])
const kind = computed(() => worksheet.what.split(':')[0])
const id = computed(() => worksheet.what.slice(worksheet.what.indexOf(':') + 1))
const shape = setUp<Shape>('place.shape', { ...USUAL_SHAPE })
const given = shallowRef<Given | null>(null)
watch(
  () => worksheet.what,
  async () => {
    given.value = null
    if (kind.value === 'shape') shape.value = { ...shape.value, kind: id.value as Shape['kind'] }
    if (kind.value !== 'book') return
    const wanted = worksheet.what
    try {
      const found = await book.open(Number(id.value))
      if (worksheet.what === wanted) given.value = found
    } catch (error) {
      notices.refuse(sentence(refusal(error)))
    }
  },
  { immediate: true },
)

const everything = computed(() =>
  (session.data?.tracks ?? []).flatMap((t) => t.parameters.map((p) => ({ value: p.id, label: `${t.name} ${p.name}` }))),
)
const picked = setUp<string[]>('place.picked', [])
/** Until others are picked it is the chosen lanes that are placed on. */
const targets = computed({
  get: () =>
    picked.value.length ? picked.value : [...new Set(selection.lanes.flatMap((x) => session.lanes.get(x)?.parameter ?? []))],
  set: (ids) => (picked.value = ids),
})
const first = computed(() => session.parameters.get(targets.value[0] ?? '')?.parameter)
const length = setUp<number | null>('place.length', null)
const times = setUp('place.times', 1)
const filling = setUp('place.filling', false)
const deep = setUp<Deep>('place.deep', 'range')
const depth = setUp('place.depth', 100)
const ends = setUp<{ low: number | null; high: number | null }>('place.ends', { low: null, high: null })
watch(first, () => (ends.value = { low: null, high: null }))
/** How deep it lies until that is chosen here: with its own numbers where they mean the same, a shape a little about a level's value. */
const deepChosen = setUp('place.deepChosen', false)
const placed = computed(() => {
  if (kind.value === 'phrase') return session.phrases.get(id.value)
  return kind.value === 'book' ? given.value : null
})
watch([placed, first, kind], () => {
  const p = first.value
  if (deepChosen.value || !p) return
  const usual = usualDepth(p, placed.value ? unitOf(placed.value) : null)
  ;[deep.value, depth.value] = [usual.deep, usual.depth]
})
/** What was typed stays, also where the phrase it is for has only been asked for. */
function setDepth(percent: number): void {
  depth.value = percent
  side.value = null
  deepChosen.value = true
}
/** How deep in the unit of what it is placed on, if that is said. */
const side = setUp<number | null>('place.side', null)
function setSide(amount: number): void {
  side.value = amount
  deepChosen.value = true
}
const upsideDown = setUp('place.upsideDown', false)
const backwards = setUp('place.backwards', false)
const stagger = setUp('place.stagger', 0)
const wrap = setUp('place.wrap', false)
const linked = setUp('place.linked', true)
const edges = setUp<'seal' | 'ramp'>('place.edges', 'seal')
const ramp = setUp('place.ramp', inBeats(0.125))
const start = computed(() => selection.range?.start ?? bench.cursor)
const each = computed(
  () => length.value ?? placed.value?.length ?? (selection.range ? selection.range.end - selection.range.start : 4),
)

const draft = computed<Extract<AnyRequest, { verb: 'place' }>>(() => ({
  verb: 'place',
  targets: targets.value.map((parameter, i) => ({
    parameter,
    home: 'track',
    low: deep.value === 'between' && !i ? ends.value.low : null,
    high: deep.value === 'between' && !i ? ends.value.high : null,
  })),
  start: start.value,
  end: selection.range?.end ?? null,
  phrase: kind.value === 'phrase' ? id.value : null,
  given: kind.value === 'book' ? given.value : null,
  shape: kind.value === 'shape' ? shape.value : null,
  name: '',
  length: length.value ?? (kind.value === 'shape' && !selection.range ? 4 : null),
  times: filling.value && selection.range ? null : Math.max(Math.round(times.value), 1),
  deep: deep.value,
  depth: depth.value,
  to_each_side: side.value,
  upside_down: upsideDown.value,
  backwards: backwards.value,
  stagger: stagger.value,
  wrap: wrap.value,
  edges: linked.value ? 'seal' : edges.value,
  ramp: !linked.value && edges.value === 'ramp' ? ramp.value.beats : 0,
  linked: linked.value,
  set_to_read: false,
}))
const chosen = computed(() => kind.value === 'shape' || !!placed.value)
const request = computed(() => (chosen.value && targets.value.length ? draft.value : null))
const asking = computed(() => {
  const none = { phrase: null, given: null, shape: null }
  return chosen.value ? draft.value : { ...draft.value, ...none }
})
const hint = () => {
  if (!chosen.value) return 'Choose a phrase or a shape to place.'
  return targets.value.length ? '' : 'Choose lanes on the bench, or parameters here.'
}
usePreviewOf(request, hint, asking)

/** The graph of where a phrase of other units lands on the first target. */
const { answer: graph } = useAsking(askedOf(request), ({ id, request }, signal) =>
  asked(api.POST('/api/sessions/{id}/mapping', { params: { path: { id } }, body: { request }, signal })),
)
const landing = computed(() => {
  const found = graph.value?.targets[0]
  if (!graph.value?.source || !first.value || found?.low == null || found.high == null || deep.value === 'unit') return null
  return {
    low: { value: found.low, position: found.low_position! },
    high: { value: found.high, position: found.high_position! },
  }
})
function moveEnd(end: 'low' | 'high', value: number): void {
  const lower = upsideDown.value !== (end === 'low')
  const p = first.value!
  ends.value = { low: ends.value.low ?? p.low, high: ends.value.high ?? p.high, [lower ? 'low' : 'high']: value }
}
</script>

<template>
  <fieldset>
    <Setting
      v-model="worksheet.what"
      of="place/phrase"
      data-field="phrase shape"
      label="What"
      asks="Phrase or shape to place"
      none="choose a phrase or a shape"
      class="wide"
      :options="options"
    />
    <ShapeFields v-if="kind === 'shape'" v-model="shape" :start="start" />
    <Setting v-model="targets" of="place/targets" asks="Parameters to place on" :options="everything" none="choose a parameter" />
    <div class="field" data-field="start times length">
      <span class="pair">
        From
        <TypedField
          label="Placed from"
          kind="position"
          :text="session.position(start)"
          @read="
            (beat) =>
              selection.range
                ? (selection.range = { start: beat, end: Math.max(selection.range.end, beat + 1) })
                : (bench.cursor = beat)
          "
        />
      </span>
      <span class="pair">
        each
        <TypedField
          label="Length of each"
          kind="length"
          :text="`${+each.toFixed(4)} beats`"
          :start="start"
          @read="(n) => (length = n)"
        />
        <button v-if="length !== null" class="link soft" type="button" @click="length = null">its own</button>
        <template v-if="!filling || !selection.range">
          <NumberField label="How often" :value="times" :least="1" :usual="1" whole @read="(n) => (times = n)" /> times
        </template>
        <ElCheckbox v-if="selection.range" v-model="filling" label="fill the range" size="small" />
      </span>
    </div>
  </fieldset>
  <fieldset>
    <Setting
      v-model="deep"
      data-field="deep depth"
      of="place/deep"
      bare
      asks="How deep"
      :off="kind === 'shape' ? ['unit'] : []"
      @update:model-value="deepChosen = true"
    >
      <span v-if="deep === 'range' || deep === 'static'" class="pair">
        <DepthField
          label="Depth"
          :percent="side === null ? depth : null"
          :side="side"
          :unit="first?.axis.unit ?? ''"
          @percent="setDepth"
          @side="setSide"
        />
      </span>
    </Setting>
    <div v-if="deep === 'between' && first" class="field" data-field="low high">
      <span>Lands between</span>
      <span class="pair">
        <TypedField
          label="Lowest"
          kind="value"
          :parameter="first.id"
          :text="valueText(first, ends.low ?? first.low)"
          @read="(v) => (ends = { ...ends, low: v })"
        />
        and
        <TypedField
          label="Highest"
          kind="value"
          :parameter="first.id"
          :text="valueText(first, ends.high ?? first.high)"
          @read="(v) => (ends = { ...ends, high: v })"
        />
      </span>
    </div>
    <div class="field" data-field="upside_down backwards">
      <ElCheckbox v-model="upsideDown" label="upside down" size="small" />
      <ElCheckbox v-model="backwards" label="backwards" size="small" />
    </div>
    <div class="field" data-field="stagger wrap">
      <span class="pair">
        Each further lane
        <TypedField
          label="Stagger"
          kind="length"
          :text="`${+stagger.toFixed(4)} beats`"
          :start="start"
          @read="(n) => (stagger = n)"
        />
        later
      </span>
      <ElCheckbox v-model="wrap" label="wrap round" size="small" />
    </div>
    <Setting v-model="linked" of="place/linked" asks="Linked or plain points" />
    <EdgesField v-if="!linked" data-field="edges ramp" v-model:edges="edges" v-model:ramp="ramp" :start="start" />
  </fieldset>
  <MappingGraph
    v-if="landing && kind !== 'shape'"
    class="graph"
    :source="graph!.source!"
    :target="first!"
    :from="{ low: graph!.low, high: graph!.high }"
    :ends="landing"
    :time="graph!.time"
    :movable="deep === 'between'"
    @move="moveEnd"
  />
</template>

<style scoped>
.wide {
  width: 262px;
}
</style>
