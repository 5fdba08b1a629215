<script setup lang="ts">
// How far a thinned line may be from what it was: a bound for each unit, the usual one unless another is typed.
import { computed } from 'vue'
import { usualBounds, type Gliding } from '../../lib/bounds'
import NumberField from './NumberField.vue'

const props = defineProps<{ parameters: Gliding[]; label: string }>()
const bounds = defineModel<Record<string, number>>({ required: true })
const usual = computed(() => usualBounds(props.parameters))
</script>

<template>
  <div v-for="(amount, unit) in usual" :key="unit" class="field" data-field="within">
    <span>{{ label }}</span>
    <span class="pair">
      <NumberField
        :label="`Bound in ${unit || 'plain numbers'}`"
        :value="bounds[unit] ?? amount"
        @read="(n) => (bounds = { ...bounds, [unit]: n })"
      />
      {{ unit || 'plain numbers' }}
    </span>
  </div>
</template>
