<script setup lang="ts">
// An import or export report: what came, what was changed, what was left out.
import type { ReportOut } from '../api/client'

defineProps<{ report: ReportOut; came?: string }>()
</script>

<template>
  <dl class="report">
    <template v-if="report.came?.length"
      ><dt>{{ came ?? 'Came in' }}</dt>
      <dd>
        <p v-for="line in report.came" :key="line">{{ line }}</p>
      </dd></template
    >
    <template v-if="report.changed?.length"
      ><dt>Changed</dt>
      <dd>
        <p v-for="line in report.changed" :key="line">{{ line }}</p>
      </dd></template
    >
    <template v-if="report.left_out?.length"
      ><dt>Left out</dt>
      <dd>
        <p v-for="line in report.left_out" :key="line">{{ line }}</p>
      </dd></template
    >
  </dl>
</template>

<style scoped>
.report {
  display: grid;
  grid-template-columns: 80px 1fr;
  gap: 4px 12px;
  margin: 0;
  overflow-wrap: anywhere;
}
dt {
  color: var(--soft);
  font-weight: 600;
}
dd {
  margin: 0;
}
</style>
