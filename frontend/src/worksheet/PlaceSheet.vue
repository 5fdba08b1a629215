<script setup lang="ts">
// Place: a phrase or a shape onto lanes; a range kept as a phrase; chosen places changed or set free; a phrase itself changed.
// Each of these has its fields in place/.
import { useWorksheet } from '../state/worksheet'
import ChangePart from './place/ChangePart.vue'
import KeepPart from './place/KeepPart.vue'
import PhrasePart from './place/PhrasePart.vue'
import PlacePart from './place/PlacePart.vue'
import ChoiceField from '../parts/fields/ChoiceField.vue'

const worksheet = useWorksheet()
const PARTS = { place: PlacePart, keep: KeepPart, change: ChangePart, phrase: PhrasePart } as const
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset class="head">
      <ChoiceField
        v-model="worksheet.placing"
        data-field="what"
        :choices="[
          { value: 'place', words: 'place' },
          { value: 'keep', words: 'keep a range' },
          { value: 'change', words: 'chosen places' },
          { value: 'phrase', words: 'a phrase' },
        ]"
        bare
        asks="What to do with phrases"
      >
        <RouterLink class="link soft" :to="{ name: 'book' }">the phrase book</RouterLink>
      </ChoiceField>
    </fieldset>
    <component :is="PARTS[worksheet.placing]" />
  </form>
</template>
