<script setup lang="ts">
// Draw: what a drag on a strip does while this sheet is open.
import Setting from '../parts/fields/Setting.vue'
import Chooser from '../parts/Chooser.vue'
import { useWorksheet } from '../state/worksheet'
import { KINDS } from '../lib/shapeKinds'
import ChoiceField from '../parts/fields/ChoiceField.vue'

const worksheet = useWorksheet()
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset>
      <legend>How</legend>
      <ChoiceField
        v-model="worksheet.drawing.way"
        data-field="stroke"
        :choices="[
          { value: 'free', words: 'freehand' },
          { value: 'line', words: 'a straight line' },
          { value: 'shape', words: 'a shape' },
        ]"
        label="A drag on a strip draws"
        asks="A drag draws"
      />
      <Setting v-if="worksheet.drawing.way === 'free'" v-model="worksheet.drawing.tolerance" of="draw/tolerance" :usual="0.5" />
      <div v-if="worksheet.drawing.way === 'shape'" class="field" data-field="shape">
        <span>A cycle each grid cell</span>
        <Chooser
          v-model="worksheet.drawing.kind"
          label="Shape to paint"
          :options="KINDS.map((kind) => ({ value: kind, label: kind === 's' ? 'S' : kind }))"
          :upwards="worksheet.folded"
        />
      </div>
    </fieldset>
    <p v-if="worksheet.drawing.way === 'shape'" class="soft">
      A drag lays one cycle a grid cell, as deep as the pointer is far from where it was pressed. It stays linked.
    </p>
    <p v-else class="soft">
      Under the stroke the lane becomes the stroke; outside it nothing changes. A straight line snaps to the grid, and Alt frees
      it.
    </p>
  </form>
</template>
