<script setup lang="ts">
// A list to pick several from, by typing; it looks the same on every sheet. Other settings go on to the control.
// From the folded sentence, which lies at the foot of the window, it opens upwards; it is only made once it is wanted.
import { useWorksheet } from '../state/worksheet'

const worksheet = useWorksheet()
defineProps<{ options: { value: string; label: string }[]; label: string }>()
const picked = defineModel<string[]>({ required: true })
</script>

<template>
  <ElSelectV2
    v-if="!worksheet.folded || worksheet.editing"
    v-model="picked"
    :options="options"
    multiple
    filterable
    default-first-option
    collapse-tags
    collapse-tags-tooltip
    :max-collapse-tags="1"
    :height="125"
    :item-height="25"
    :placement="worksheet.folded ? 'top-start' : 'bottom-start'"
    :fallback-placements="['bottom-start', 'top-start']"
    append-to="#lists"
    popper-class="low-list"
    size="small"
    :aria-label="label"
  />
</template>
