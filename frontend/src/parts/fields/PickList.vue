<script setup lang="ts">
// A list to pick several from, by typing; it looks the same on every sheet. Other settings go on to the control.
// From the folded sentence, which lies at the foot of the window, it opens upwards; it is only made once it is wanted.
// The list is as wide as the widest field, however narrow its own is: names that begin alike differ at their ends.
import { computed } from 'vue'
import { useWorksheet } from '../../state/worksheet'

interface Option {
  value: string
  label: string
}
const worksheet = useWorksheet()
const props = defineProps<{ options: Option[]; label: string }>()
const same = (a: Option, b?: Option) => a.value === b?.value && a.label === b.label
// A sheet makes its lists anew with every preview; the control measures each new one, and lays its tips out again.
const steady = computed<Option[]>((was) =>
  was?.length === props.options.length && was.every((option, n) => same(option, props.options[n])) ? was : props.options,
)
const picked = defineModel<string[]>({ required: true })
</script>

<template>
  <ElSelectV2
    v-if="!worksheet.folded || worksheet.editing"
    v-model="picked"
    :options="steady"
    multiple
    filterable
    default-first-option
    :reserve-keyword="false"
    collapse-tags
    collapse-tags-tooltip
    :max-collapse-tags="1"
    :persistent="false"
    :fit-input-width="262"
    :height="125"
    :item-height="25"
    :placement="worksheet.folded ? 'top-start' : 'bottom-start'"
    :fallback-placements="['bottom-start', 'top-start']"
    append-to="#lists"
    popper-class="low-list"
    no-match-text="Nothing is called that"
    size="small"
    :aria-label="label"
  />
</template>
