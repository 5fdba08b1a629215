<script setup lang="ts">
// Every key Velmot listens to.
import { KEYS } from './api/table'

const shown = defineModel<boolean>({ required: true })
</script>

<template>
  <ElDialog v-model="shown" title="Keys" width="640" append-to-body>
    <dl>
      <template v-for="key in KEYS" :key="key.written + key.says">
        <dt class="number">{{ key.written }}</dt>
        <dd>{{ key.says }}</dd>
      </template>
    </dl>
  </ElDialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 230px 1fr;
  gap: 3px 16px;
  margin: 0;
}
dt {
  font-weight: 600;
}
dd {
  margin: 0;
}
</style>
