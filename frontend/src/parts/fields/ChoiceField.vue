<script setup lang="ts" generic="Value extends string | number | boolean">
// A line of a sheet with a few choices.
import { computed } from 'vue'
import { calledOf, type Choice, type ChoiceField } from '../../lib/choices'
import ChoiceButtons from './ChoiceButtons.vue'

const props = defineProps<{
  of?: ChoiceField
  choices?: readonly Choice[]
  /** What it is called on the sheet, where that is not what the request says. */
  label?: string
  /** Without a name beside it. */
  bare?: boolean
  asks?: string
  off?: readonly string[]
}>()
const value = defineModel<Value>({ required: true })
const name = computed(() => props.label ?? (props.of ? calledOf(props.of) : ''))
</script>

<template>
  <div class="field">
    <slot name="called">
      <span v-if="!bare">{{ name }}</span>
    </slot>
    <ChoiceButtons v-model="value" :of="of" :choices="choices" :asks="asks ?? name" :off="off" />
    <slot />
  </div>
</template>
