<script setup lang="ts">
// What lanes of one unit get: an amount, a factor about a pivot, and rails typed at their ends.
import { computed } from 'vue'
import type { ParameterOut } from '../../api/client'
import { usePreview } from '../../state/preview'
import { useReshaping, type Move, type RailEnd } from '../../state/reshaping'
import { useSelection } from '../../state/selection'
import { useSession } from '../../state/session'
import { setUp } from '../../state/setUps'
import { useWorksheet } from '../../state/worksheet'
import Chooser from '../../parts/Chooser.vue'
import NumberField from '../../parts/fields/NumberField.vue'
import TypedField from '../../parts/fields/TypedField.vue'

const props = defineProps<{ unit: string; parameter: ParameterOut }>()
const session = useSession()
const selection = useSelection()
const preview = usePreview()
const worksheet = useWorksheet()
const reshaping = useReshaping()
const move = computed(() => reshaping.moveOf(props.unit))
const called = computed(() => props.unit || 'plain numbers')

/** A pan has a centre, which is a value like any other. */
const CENTRE = 'centre'
const isPan = computed(() => props.parameter.family === 'pan')
const pivots = computed(() => (isPan.value ? [{ value: CENTRE, label: 'the centre' }, ...PIVOTS] : PIVOTS))
const centred = setUp(`reshape.centred.${props.unit}`, false)
const pivot = computed(() => (isPan.value && centred.value && move.value.pivot === 'value' ? CENTRE : move.value.pivot))
function about(what: string): void {
  centred.value = what === CENTRE
  reshaping.change(props.unit, what === CENTRE ? { pivot: 'value', about: 0 } : { pivot: what as Move['pivot'] })
}
const PIVOTS = [
  { value: 'middle', label: 'the middle' },
  { value: 'mean', label: 'the mean' },
  { value: 'rest', label: 'the resting value' },
  { value: 'value', label: 'a value' },
] satisfies { value: Move['pivot']; label: string }[]

/** The rails of the first lane of this unit, as they would be; without them there is nothing to type over. */
const rails = computed(() => {
  const all = preview.change?.rails ?? []
  return all.find((r) => session.parameters.get(r.parameter)?.parameter.axis.unit === props.unit)
})
/** The rails' fields: one line for a flat lane, which has one rail. */
const sides = computed(() => {
  const line = (name: string, side: 'high' | 'low') => ({
    name,
    ends: (['start', 'end'] as const).map((at) => ({ at, rail: `${side}_${at}` as const })),
  })
  if (!rails.value) return []
  return rails.value.flat ? [line('Rail', 'high')] : [line('High rail', 'high'), line('Low rail', 'low')]
})
const typedAt = computed(() => Object.values(move.value.to).some((x) => x != null))
function put(end: RailEnd, value: number): void {
  reshaping.change(props.unit, { to: { ...move.value.to, [end]: value } })
}
</script>

<template>
  <div class="unit" role="group" :aria-label="`Lanes in ${called}`">
    <div class="field" data-field="moves">
      <span>By</span>
      <span class="pair">
        <NumberField
          :label="`By how many ${called}`"
          :value="move.by"
          :usual="0"
          :unit="unit"
          live
          @read="(by) => reshaping.change(unit, { by })"
        />
        {{ unit }}
      </span>
    </div>
    <div class="field" data-field="moves">
      <span>To</span>
      <span class="pair">
        <NumberField
          :label="`To what percent, in ${called}`"
          :value="+(move.times * 100).toFixed(6)"
          :usual="100"
          unit="%"
          percent
          live
          @read="(n) => reshaping.change(unit, { times: n / 100 })"
        />
        % about
        <Chooser
          :label="`What stays, in ${called}`"
          :model-value="pivot"
          :options="pivots"
          :upwards="worksheet.folded"
          @update:model-value="about"
        />
        <TypedField
          v-if="pivot === 'value'"
          :label="`The value that stays, in ${called}`"
          kind="value"
          :parameter="parameter.id"
          :text="`${+move.about.toFixed(6)}`"
          @read="(about) => reshaping.change(unit, { about })"
        />
      </span>
    </div>
    <div v-for="side in sides" :key="side.name" class="field" data-field="moves">
      <span>{{ side.name }}</span>
      <span class="pair">
        <template v-for="end in side.ends" :key="end.at">
          <template v-if="end.at === 'end'">to</template>
          <TypedField
            :label="`${side.name} at the ${end.at}`"
            kind="value"
            :parameter="rails!.parameter"
            :text="rails!.texts[end.rail]"
            @read="(v) => put(end.rail, v)"
          />
        </template>
      </span>
    </div>
    <button v-if="typedAt" class="link soft" type="button" @click="reshaping.change(unit, { to: {} })">
      let go of the typed {{ selection.lanes.length > 1 ? 'rails' : 'rail' }}
    </button>
  </div>
</template>

<style scoped>
.chooser {
  width: 118px;
}
</style>
