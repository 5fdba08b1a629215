<script setup lang="ts">
// A list to pick several from, by typing; it looks the same on every sheet. Other settings go on to the control.
defineProps<{ options: { value: string; label: string }[]; label: string }>()
const picked = defineModel<string[]>({ required: true })
</script>

<template>
  <ElSelectV2
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
    placement="bottom-start"
    :fallback-placements="['bottom-start']"
    popper-class="low-list"
    size="small"
    :aria-label="label"
  />
</template>
