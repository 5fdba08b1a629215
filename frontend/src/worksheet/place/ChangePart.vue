<script setup lang="ts">
// The chosen places: where they come from, how they are read, where the others are; changed together, or set free.
import { computed, ref, watch } from 'vue'
import type { AnyRequest, PlacementOut } from '../../api/client'
import Chooser from '../../parts/Chooser.vue'
import { useBench } from '../../state/bench'
import { usePreviewOf } from '../../state/preview'
import { useSelection } from '../../state/selection'
import { useSession } from '../../state/session'
import { useWorksheet } from '../../state/worksheet'
import { counted } from '../../lib/words'
import TypedField from '../../parts/fields/TypedField.vue'
import DepthField from '../../parts/fields/DepthField.vue'

type Change = Extract<AnyRequest, { verb: 'change places' }>
const session = useSession()
const worksheet = useWorksheet()
const selection = useSelection()
const bench = useBench()
const NOTHING = { low: null, high: null, depth: null, upside_down: null, backwards: null, turn: null, phrase: null }
const asked = ref<Partial<Change>>({})
const freeing = ref<'' | 'these' | 'all'>('')
const chosen = computed(() => selection.places.flatMap((id) => session.placements.get(id) ?? []))
watch([() => selection.places, () => session.data?.revision], () => {
  asked.value = {}
  freeing.value = ''
})
/** What all the chosen places have in common; null where they differ. */
function shared<K extends keyof PlacementOut>(key: K): PlacementOut[K] | null {
  const [first, ...others] = chosen.value
  return first && others.every((x) => x[key] === first[key]) ? first[key] : null
}
const names = computed(() => [...new Set(chosen.value.map((x) => x.name))].join(', '))
const others = computed(() => {
  const phrases = new Set(chosen.value.map((x) => x.phrase))
  return (session.data?.linked.placements ?? []).filter((x) => phrases.has(x.phrase) && !selection.places.includes(x.id))
})
const single = computed(() =>
  shared('parameter') === null ? null : session.parameters.get(chosen.value[0]!.parameter)?.parameter,
)
const lengthText = computed(() => said('length', (n) => `${+n.toFixed(4)} beats`))
const turnText = computed(() => said('turn', (n) => `${+n.toFixed(4)} beats`))
function said(key: 'length' | 'turn', text: (n: number) => string): string {
  const now = asked.value[key] ?? shared(key)
  return now == null ? 'they differ' : text(now)
}
const changed = computed(() => Object.keys(asked.value).length > 0)
const draft = computed<AnyRequest>(() =>
  freeing.value
    ? { verb: 'set free', placements: selection.places, all: freeing.value === 'all' }
    : { verb: 'change places', placements: selection.places, move: 0, length: null, ...NOTHING, ...asked.value },
)
const request = computed(() => (chosen.value.length && (freeing.value || changed.value) ? draft.value : null))
const hint = () =>
  chosen.value.length ? 'Change something, drag it on its strip, or set it free.' : 'Click a place’s rule on a strip.'
usePreviewOf(request, hint, draft)
function set(some: Partial<Change>): void {
  freeing.value = ''
  asked.value = { ...asked.value, ...some }
}
function goTo(place: PlacementOut): void {
  bench.goTo(place.parameter, { start: place.start, end: place.start + place.length })
  selection.places = [place.id]
}
</script>

<template>
  <fieldset>
    <p v-if="!chosen.length" class="soft">Click the rule over a linked span on a strip to choose it here.</p>
    <template v-else>
      <div class="field" data-field="placements phrase">
        <span
          ><b>{{ names }}</b>
          <span class="soft">{{ chosen.length === 1 ? chosen[0]!.called : counted(chosen.length, 'place') }}</span></span
        >
        <Chooser
          model-value=""
          label="Replace by another phrase"
          none="replace by"
          :options="(session.data?.linked.phrases ?? []).map((p) => ({ value: p.id, label: p.name }))"
          :upwards="worksheet.folded"
          @update:model-value="(phrase) => set({ phrase })"
        />
      </div>
      <div class="field" data-field="placements move length">
        <span class="pair"
          >Starts at
          <TypedField
            v-if="chosen.length === 1"
            label="Place starts at"
            kind="position"
            :text="session.position(chosen[0]!.start + (asked.move ?? 0))"
            @read="(beat) => set({ move: beat - chosen[0]!.start })"
          />
          <span v-else class="number">{{ session.position(Math.min(...chosen.map((x) => x.start))) }}</span></span
        >
        <span class="pair"
          ><TypedField label="Length of the place" kind="length" :text="lengthText" @read="(length) => set({ length })" /> long
          <span v-if="shared('ratio')" class="soft">{{ shared('ratio') }}</span></span
        >
      </div>
      <ul class="others">
        <li v-for="place in others.slice(0, 60)" :key="place.id">
          <button class="link" type="button" @click="goTo(place)">
            {{ place.called }} <span class="number">{{ session.position(place.start) }}</span>
          </button>
        </li>
        <li v-if="!others.length" class="soft">nowhere else</li>
        <li v-if="others.length > 60" class="soft">and {{ others.length - 60 }} more</li>
      </ul>
    </template>
  </fieldset>
  <fieldset v-if="chosen.length">
    <div class="field" data-field="placements low high depth">
      <span v-if="single" class="pair">
        Between
        <TypedField
          label="Lowest of the place"
          kind="value"
          :parameter="single.id"
          :text="shared('low') ?? 'they differ'"
          @read="(low) => set({ low })"
        />
        and
        <TypedField
          label="Highest of the place"
          kind="value"
          :parameter="single.id"
          :text="shared('high') ?? 'they differ'"
          @read="(high) => set({ high })"
        />
      </span>
      <span class="pair"
        >depth
        <DepthField
          label="Depth of the place"
          :percent="asked.to_each_side == null ? (asked.depth ?? shared('depth')) : null"
          :side="asked.to_each_side ?? null"
          :unit="single?.axis.unit ?? ''"
          none="differ"
          @percent="(depth) => set({ depth, to_each_side: null })"
          @side="(side) => set({ depth: null, to_each_side: side })"
      /></span>
    </div>
    <div class="field" data-field="placements upside_down backwards turn">
      <ElCheckbox
        :model-value="asked.upside_down ?? shared('upside_down') ?? false"
        label="upside down"
        size="small"
        @update:model-value="(on: unknown) => set({ upside_down: !!on })"
      />
      <ElCheckbox
        :model-value="asked.backwards ?? shared('backwards') ?? false"
        label="backwards"
        size="small"
        @update:model-value="(on: unknown) => set({ backwards: !!on })"
      />
      <span class="pair"
        >turned by <TypedField label="Turned by" kind="length" :text="turnText" @read="(turn) => set({ turn })"
      /></span>
    </div>
    <div class="field" data-field="placements all">
      <button class="link" type="button" @click="freeing = 'these'">set {{ chosen.length === 1 ? 'it' : 'them' }} free</button>
      <button class="link" type="button" @click="freeing = 'all'">set all places free</button>
      <button
        class="link"
        type="button"
        @click="((worksheet.what = `phrase:${chosen[0]!.phrase}`), (worksheet.placing = 'phrase'))"
      >
        edit the phrase
      </button>
      <button v-if="changed || freeing" class="link soft" type="button" @click="((asked = {}), (freeing = ''))">as it was</button>
    </div>
  </fieldset>
</template>

<style scoped>
b {
  margin-right: 6px;
}
.others {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  max-height: 96px;
  overflow: auto;
  padding-top: 6px;
}
</style>
