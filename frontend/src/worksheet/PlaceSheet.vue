<script setup lang="ts">
// Place: a phrase or a shape onto lanes; a range kept as a phrase; chosen places changed or set free; a phrase itself changed.
// Each of these has its fields in place/.
import { useWorksheet } from '../state/worksheet'
import ChangePart from './place/ChangePart.vue'
import KeepPart from './place/KeepPart.vue'
import PhrasePart from './place/PhrasePart.vue'
import PlacePart from './place/PlacePart.vue'

const worksheet = useWorksheet()
const PARTS = { place: PlacePart, keep: KeepPart, change: ChangePart, phrase: PhrasePart } as const
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset class="head">
      <div class="field" data-field="what">
        <ElRadioGroup v-model="worksheet.placing" size="small" aria-label="What to do with phrases">
          <ElRadioButton value="place">place</ElRadioButton>
          <ElRadioButton value="keep">keep a range</ElRadioButton>
          <ElRadioButton value="change">chosen places</ElRadioButton>
          <ElRadioButton value="phrase">a phrase</ElRadioButton>
        </ElRadioGroup>
        <RouterLink class="link soft" :to="{ name: 'book' }">the phrase book</RouterLink>
      </div>
    </fieldset>
    <component :is="PARTS[worksheet.placing]" />
  </form>
</template>
