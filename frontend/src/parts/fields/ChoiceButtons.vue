<script setup lang="ts" generic="Value extends string | number | boolean">
// A few choices, one of them taken: a request's, whose words stand in its table, or a sheet's own.
import { computed } from 'vue'
import { choicesOf, type Choice, type ChoiceField } from '../../lib/fields'

const props = defineProps<{
  /** Whose they are: the verb and the field of its request. */
  of?: ChoiceField
  /** Choices in place of the request's. */
  choices?: readonly Choice[]
  /** What it is called, to who does not see the sheet. */
  asks: string
  /** Choices that cannot be made now. */
  off?: readonly string[]
}>()
const value = defineModel<Value>({ required: true })
const all = computed(() => props.choices ?? choicesOf(props.of!))
</script>

<template>
  <ElRadioGroup v-model="value" size="small" :aria-label="asks">
    <ElRadioButton
      v-for="one in all"
      :key="String(one.value)"
      :value="one.value"
      :disabled="one.off || off?.includes(String(one.value))"
      :title="one.title"
      >{{ one.words }}</ElRadioButton
    >
  </ElRadioGroup>
</template>
