<script setup lang="ts">
// Reshape: lanes moved between their rails, or given the same values. Each of these has its fields in reshape/.
import { useReshaping } from '../state/reshaping'
import RailsPart from './reshape/RailsPart.vue'
import SamePart from './reshape/SamePart.vue'

const reshaping = useReshaping()
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset class="head">
      <div class="field" data-field="what">
        <ElRadioGroup v-model="reshaping.part" size="small" aria-label="How to reshape">
          <ElRadioButton value="rails">between rails</ElRadioButton>
          <ElRadioButton value="same">same values</ElRadioButton>
        </ElRadioGroup>
      </div>
    </fieldset>
    <component :is="reshaping.part === 'same' ? SamePart : RailsPart" />
  </form>
</template>
