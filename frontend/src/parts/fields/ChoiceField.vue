<script setup lang="ts" generic="Value extends string | number | boolean">
// A line of a sheet with a few choices of the sheet's own.
import type { Choice } from '../../lib/fields'
import ChoiceButtons from './ChoiceButtons.vue'

defineProps<{
  choices: readonly Choice[]
  label?: string
  /** Without a name beside it. */
  bare?: boolean
  asks?: string
}>()
const value = defineModel<Value>({ required: true })
</script>

<template>
  <div class="field">
    <span v-if="!bare">{{ label }}</span>
    <ChoiceButtons v-model="value" :choices="choices" :asks="asks ?? label ?? ''" />
    <slot />
  </div>
</template>
