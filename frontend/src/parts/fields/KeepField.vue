<script setup lang="ts" generic="How extends 'copy' | 'move' | 'linked'">
// Whether the source stays as it is or is cleared; where it may, that it stays linked with what lands.
import { computed } from 'vue'
import { choicesOf } from '../../lib/fields'
import ChoiceField from './ChoiceField.vue'

const props = defineProps<{ linked?: boolean }>()
const how = defineModel<How>({ required: true })
const LINKED = { value: 'linked', words: 'yes, linked', title: 'Edit one of them, and all follow' }
const choices = computed(() => [...choicesOf('carry/how'), ...(props.linked ? [LINKED] : [])])
</script>

<template>
  <ChoiceField v-model="how" :choices="choices" label="Keep the original" />
</template>
