<script setup lang="ts">
// Reshape: lanes moved between their rails, or given the same values. Each of these has its fields in reshape/.
import { useReshaping } from '../state/reshaping'
import RailsPart from './reshape/RailsPart.vue'
import SamePart from './reshape/SamePart.vue'
import ChoiceField from '../parts/fields/ChoiceField.vue'

const reshaping = useReshaping()
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset class="head">
      <ChoiceField
        v-model="reshaping.part"
        data-field="what"
        :choices="[
          { value: 'rails', words: 'between rails' },
          { value: 'same', words: 'same values' },
        ]"
        bare
        asks="How to reshape"
      />
    </fieldset>
    <component :is="reshaping.part === 'same' ? SamePart : RailsPart" />
  </form>
</template>
