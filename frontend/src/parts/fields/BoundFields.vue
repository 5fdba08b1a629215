<script setup lang="ts">
// How far a thinned line may be from what it was: a bound for each unit, the usual one unless another is typed.
import { computed } from 'vue'
import type { ParameterOut } from '../../api/client'
import NumberField from './NumberField.vue'

const props = defineProps<{ parameters: ParameterOut[]; label: string }>()
const bounds = defineModel<Record<string, number>>({ required: true })
const USUAL: Record<string, number> = { dB: 0.1, octaves: 0.01 }

/** The units of what glides, each with a parameter of it. */
const units = computed(() => {
  const all = new Map<string, ParameterOut>()
  for (const p of props.parameters) if (p.kind === 'continuous' && !all.has(p.axis.unit)) all.set(p.axis.unit, p)
  return all
})
const boundOf = (unit: string, p: ParameterOut) => bounds.value[unit] ?? USUAL[unit] ?? +((p.high - p.low) / 200).toPrecision(6)
/** The bound of a unit, where nobody said another. */
const usual = (unit: string) => boundOf(unit, units.value.get(unit)!)
defineExpose({ usual })
</script>

<template>
  <div v-for="[unit, p] in units" :key="unit" class="field" data-field="within">
    <span>{{ label }}</span>
    <span class="pair">
      <NumberField
        :label="`Bound in ${unit || 'plain numbers'}`"
        :value="boundOf(unit, p)"
        @read="(n) => (bounds = { ...bounds, [unit]: n })"
      />
      {{ unit || 'plain numbers' }}
    </span>
  </div>
</template>
