<script setup lang="ts">
// Whether the source stays as it is or is cleared.
const how = defineModel<'copy' | 'move'>({ required: true })
</script>

<template>
  <div class="field">
    <span>Keep the original</span>
    <ElRadioGroup v-model="how" size="small" aria-label="Keep the original">
      <ElRadioButton value="copy">yes, copy</ElRadioButton>
      <ElRadioButton value="move">no, move</ElRadioButton>
    </ElRadioGroup>
  </div>
</template>
