<script setup lang="ts">
// Which lanes a verb works on: the chosen ones, by name.
import { computed } from 'vue'
import { useBench } from '../state/bench'
import { useSession } from '../state/session'

defineProps<{ label: string }>()
const session = useSession()
const bench = useBench()
const options = computed(() => (session.data?.lanes ?? []).map((x) => ({ value: x.id, label: session.laneName(x.id) })))
</script>

<template>
  <div class="field">
    <span>Lanes</span>
    <ElSelectV2
      v-model="bench.chosen" :options="options" multiple filterable collapse-tags collapse-tags-tooltip :max-collapse-tags="1"
      :height="125" :item-height="25" placement="bottom-start" :fallback-placements="['bottom-start']" popper-class="low-list"
      size="small" :aria-label="label" placeholder="drag over a strip" no-match-text="No lane is called that"
    />
  </div>
</template>
