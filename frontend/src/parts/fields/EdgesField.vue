<script setup lang="ts">
// What happens at the edges of what lands: values jump there, or a ramp of some length leads in and out.
import type { Typed } from '../../lib/fields'
import ChoiceButtons from './ChoiceButtons.vue'
import TypedField from './TypedField.vue'

defineProps<{ start: number }>()
const edges = defineModel<'seal' | 'ramp'>('edges', { required: true })
const ramp = defineModel<Typed>('ramp', { required: true })
</script>

<template>
  <div class="field">
    <span>At the edges</span>
    <span class="pair">
      <TypedField
        v-if="edges === 'ramp'"
        label="Ramp length"
        kind="length"
        :text="ramp.text"
        :start="start"
        @read="(beats, text) => (ramp = { beats, text })"
      />
      <ChoiceButtons v-model="edges" of="carry/edges" asks="At the edges" />
    </span>
  </div>
</template>
