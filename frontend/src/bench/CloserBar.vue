<script setup lang="ts">
// A closer look at one region: its name and length, and the way back to the session.
import { computed } from 'vue'
import Chooser from '../parts/Chooser.vue'
import { useBench } from '../state/bench'
import { useSession } from '../state/session'
import { counted } from '../lib/words'

const session = useSession()
const bench = useBench()
const found = computed(() => session.regions.get(bench.closer ?? ''))
const others = computed(() => (found.value?.track.parameters ?? []).filter((p) => !bench.strips.includes(p.id)))
</script>

<template>
  <div v-if="found" class="closer">
    <b>{{ found.region.name }}</b>
    <span class="soft"
      >{{ found.region.container ? 'a container' : 'a region' }} of {{ found.track.name }}, in its own time:
      {{ counted(found.region.length, 'beat') }}, {{ counted(found.region.lanes, 'lane') }}</span
    >
    <Chooser
      v-if="others.length"
      model-value=""
      label="Begin automation in this region"
      none="begin another"
      :options="others.map((p) => ({ value: p.id, label: p.name }))"
      @update:model-value="bench.begin"
    />
    <button class="link" @click="bench.lookCloser(null)">back to the session</button>
  </div>
</template>

<style scoped>
.closer {
  display: flex;
  align-items: center;
  gap: 10px;
  height: 34px;
  padding: 0 12px;
  background: var(--sand);
  border-bottom: 1px solid var(--line);
}
.closer .link {
  margin-left: auto;
  font-weight: 600;
}
</style>
