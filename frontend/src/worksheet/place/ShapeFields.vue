<script setup lang="ts">
// The numbers of a shape: cycles, and how they start, lean, grow and hurry.
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import TypedField from '../../parts/fields/TypedField.vue'
import NumberField from '../../parts/fields/NumberField.vue'

type Shape = Schemas['Shape']
const shape = defineModel<Shape>({ required: true })
defineProps<{ start: number }>()
const chance = computed(() => shape.value.kind.endsWith('chance'))
function set(some: Partial<Shape>): void {
  shape.value = { ...shape.value, ...some }
}
</script>

<template>
  <div class="field" data-field="shape">
    <span class="pair">
      <template v-if="shape.cycle == null">
        <NumberField label="Cycles" :value="shape.cycles" :usual="1" @read="(cycles) => set({ cycles })" /> cycles
        <button class="link soft" type="button" @click="set({ cycle: 4 })">by their length</button>
      </template>
      <template v-else>
        a cycle of
        <TypedField
          label="Length of a cycle"
          kind="length"
          :text="`${+shape.cycle.toFixed(4)} beats`"
          :start="start"
          @read="(cycle) => set({ cycle })"
        />
        <button class="link soft" type="button" @click="set({ cycle: null })">by their number</button>
      </template>
    </span>
    <span v-if="chance" class="pair"
      >seed <NumberField label="Seed" :value="shape.seed" :usual="0" whole @read="(seed) => set({ seed })"
    /></span>
    <span v-else class="pair">
      phase <NumberField label="Phase" :value="shape.phase" :usual="0" @read="(phase) => set({ phase })" /> skew
      <NumberField
        label="Skew in percent"
        :value="+(shape.skew * 100).toFixed(6)"
        :usual="50"
        @read="(n) => set({ skew: n / 100 })"
      />
      %
    </span>
  </div>
  <div class="field" data-field="shape">
    <span class="pair">
      grows from
      <NumberField
        label="Depth at its start in percent"
        :value="shape.grow_from"
        :usual="100"
        @read="(n) => set({ grow_from: n })"
      />
      to
      <NumberField label="Depth at its end in percent" :value="shape.grow_to" :usual="100" @read="(n) => set({ grow_to: n })" /> %
    </span>
    <span class="pair">
      hurry <NumberField label="Hurry" :value="shape.hurry" :usual="1" @read="(hurry) => set({ hurry })" /> lean
      <NumberField
        label="Lean in percent"
        :value="+(shape.lean * 100).toFixed(6)"
        :usual="0"
        @read="(n) => set({ lean: n / 100 })"
      />
      %
    </span>
  </div>
</template>
