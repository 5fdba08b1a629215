<script setup lang="ts" generic="How extends 'copy' | 'move' | 'linked'">
// Whether the source stays as it is or is cleared; where it may, that it stays linked with what lands.
defineProps<{ linked?: boolean }>()
const how = defineModel<How>({ required: true })
</script>

<template>
  <div class="field">
    <span>Keep the original</span>
    <ElRadioGroup v-model="how" size="small" aria-label="Keep the original">
      <ElRadioButton value="copy">yes, copy</ElRadioButton>
      <ElRadioButton value="move">no, move</ElRadioButton>
      <ElRadioButton v-if="linked" value="linked" title="Edit one of them, and all follow">yes, linked</ElRadioButton>
    </ElRadioGroup>
  </div>
</template>
