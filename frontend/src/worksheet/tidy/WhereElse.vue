<script setup lang="ts">
// Where else: every place that runs like the chosen lane in the chosen range, the nearest first; what is ticked is pooled as one phrase.
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { api, asked, type AnyRequest, type Schemas } from '../../api/client'
import { counted } from '../../lib/words'
import { useAsking } from '../../state/asking'
import { useBench } from '../../state/bench'
import { usePreviewOf } from '../../state/preview'
import { useSelection } from '../../state/selection'
import { useSession } from '../../state/session'
import { setUp } from '../../state/setUps'
import { useTidying } from '../../state/tidying'

type Alike = Schemas['AlikeOut']
const REST = 250 // ms
const session = useSession()
const selection = useSelection()
const bench = useBench()
const tidying = useTidying()
const name = setUp('tidy.pooled', '')
const ticked = ref(new Set<string>())

const model = computed(() => {
  const lane = session.lanes.get(selection.lanes[0] ?? '')
  return lane && session.data ? { lane: lane.id, ...(selection.range ?? { start: lane.start, end: lane.end }) } : null
})
const wanted = computed(() =>
  model.value ? { id: session.data!.id, revision: session.data!.revision, query: model.value } : null,
)
/** Once a hand that drags a range has come to rest. */
const question = shallowRef(wanted.value)
let resting = 0
watch(wanted, (now) => {
  window.clearTimeout(resting)
  resting = window.setTimeout(() => (question.value = now), REST)
})
onBeforeUnmount(() => window.clearTimeout(resting))
const { answer, problem, waiting } = useAsking(
  () => question.value,
  ({ id, query }, signal) => asked(api.GET('/api/sessions/{id}/alike', { params: { path: { id }, query }, signal })),
)
const found = computed(() => answer.value?.found ?? [])
const keyOf = (one: Alike) => `${one.lane}${one.phrase} ${one.start}`
const able = (one: Alike) => !!one.lane && !one.linked
watch(found, (all) => {
  ticked.value = new Set()
  tidying.marks = all.filter((one) => one.lane)
})
onBeforeUnmount(() => (tidying.marks = []))

function tick(some: Alike[], on: boolean): void {
  const all = new Set(ticked.value)
  for (const one of some.filter(able)) {
    if (on) all.add(keyOf(one))
    else all.delete(keyOf(one))
  }
  ticked.value = all
}
const near = computed(() => found.value.filter((one) => able(one) && one.near > 0.99))
const chosen = computed(() => found.value.filter((one) => ticked.value.has(keyOf(one))))
const unitOf = (one: Alike) => session.parameters.get(session.lanes.get(one.lane)!.parameter)!.parameter.axis.unit
/** As far from the model as what is ticked is, and a rounding more: everyone sees in its line how far that is. */
const within = computed(() => {
  const far = new Map<string, number>()
  for (const one of chosen.value) far.set(unitOf(one), Math.max(far.get(unitOf(one)) ?? 0, one.apart * 1.001 + 1e-6))
  return [...far].map(([unit, amount]) => ({ unit, amount }))
})
const draft = computed<AnyRequest>(() => ({
  verb: 'pool',
  lane: model.value?.lane ?? '',
  start: model.value?.start ?? 0,
  end: model.value?.end ?? 0,
  name: name.value,
  places: chosen.value.map(({ lane, start, end }) => ({ lane, start, end })),
  within: within.value,
}))
const request = computed(() => (chosen.value.length && name.value.trim() ? draft.value : null))
const hint = () => {
  if (!model.value) return 'Drag over a strip to choose what to look for.'
  return chosen.value.length ? 'Give the phrase a name.' : 'Tick places to pool them as one phrase.'
}
usePreviewOf(request, hint, draft)

function go(one: Alike): void {
  const parameter = session.lanes.get(one.lane)?.parameter
  if (parameter) bench.goTo(parameter, { start: one.start, end: one.end })
}
</script>

<template>
  <div class="else">
    <div class="tools">
      <span v-if="answer" class="model"
        >like <b>{{ answer.model }}</b></span
      >
      <span v-if="answer" class="soft">{{ counted(found.length, 'place') }}</span>
      <button class="link soft" type="button" :disabled="!near.length" @click="tick(near, chosen.length < near.length)">
        tick the nearest ({{ near.length }})
      </button>
      <span v-if="found.length" class="pair" data-field="name">
        <label class="soft" for="pooled-name">pooled as</label>
        <input id="pooled-name" v-model="name" class="words-in" maxlength="300" autocomplete="off" placeholder="a name" />
      </span>
    </div>
    <div class="list" data-field="places" tabindex="-1">
      <p v-if="!model" class="soft empty">Drag over a strip: every place that runs like it is listed here.</p>
      <p v-else-if="problem" class="soft empty" role="alert">{{ problem.message }}. Expected: {{ problem.accepted }}</p>
      <p v-else-if="waiting && !answer" class="soft empty">Looking…</p>
      <p v-else-if="answer && !found.length" class="soft empty">Nothing else runs like it.</p>
      <ul v-else aria-label="Places that run like it">
        <li v-for="one in found" :key="keyOf(one)">
          <ElCheckbox
            size="small"
            :model-value="ticked.has(keyOf(one))"
            :disabled="!able(one)"
            :title="one.linked ? 'A phrase lies there already' : one.phrase ? 'A phrase, and no place' : undefined"
            :aria-label="`Pool ${one.name}, ${one.where}`"
            @update:model-value="(on: string | number | boolean) => tick([one], !!on)"
          />
          <button class="plain-button name" type="button" :disabled="!one.lane" @click="go(one)">
            <b>{{ one.name }}</b> <span class="soft">{{ one.how }}</span>
          </button>
          <span class="number soft where">{{ one.where }}</span>
          <span class="number far">{{ one.far }} apart</span>
          <span class="number near">{{ (one.near * 100).toFixed(one.near > 0.9999 ? 0 : 1) }} %</span>
        </li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.tools .pair {
  display: flex;
  align-items: center;
  gap: 6px;
}
.words-in {
  width: 18ch;
  padding: 1px 6px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
  font: inherit;
}
li:hover {
  background: var(--hover);
}
.name {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  text-align: left;
}
.name:disabled {
  color: var(--ink);
  cursor: default;
}
.far {
  min-width: 15ch;
  text-align: right;
}
.near {
  width: 7ch;
  text-align: right;
}
</style>
