<script setup lang="ts">
// In a track's line of the ledger: its meter while it sounds, and alone or silent, for listening only.
import { computed, onBeforeUnmount } from 'vue'
import type { TrackOut } from '../api/client'
import { useTransport } from '../state/desk/transport'
import { useListening } from '../state/listening'
import MeterLines from './MeterLines.vue'

const props = defineProps<{ track: TrackOut }>()
const listening = useListening()
const transport = useTransport()
const alone = computed(() => listening.alone.includes(props.track.id))
const silent = computed(() => listening.silent.includes(props.track.id))
onBeforeUnmount(listening.watchMeter(props.track.id))
const levels = computed(() => listening.levels?.of.get(props.track.id) ?? null)
</script>

<template>
  <span v-if="track.kind !== 'group'" class="listen" :class="{ on: alone || silent }">
    <MeterLines v-if="transport.running && levels" :levels="levels" :width="44" :over="listening.overText(track.id)" />
    <button
      type="button"
      class="link soft"
      tabindex="-1"
      :aria-pressed="alone"
      :class="{ on: alone }"
      :title="`Hear ${track.name} alone: for listening, the session stays as it is`"
      @click="listening.toggleAlone(track.id)"
    >
      alone<span class="out-of-sight">: {{ track.name }}</span>
    </button>
    <button
      type="button"
      class="link soft"
      tabindex="-1"
      :aria-pressed="silent"
      :class="{ on: silent }"
      :title="`Do not hear ${track.name}: for listening, the session stays as it is`"
      @click="listening.toggleSilent(track.id)"
    >
      silent<span class="out-of-sight">: {{ track.name }}</span>
    </button>
  </span>
</template>

<style scoped>
.listen {
  display: inline-flex;
  align-items: center;
  gap: 6px;
}
.listen button {
  display: none;
  font-size: 12px;
}
.listen button.on {
  display: inline;
  color: var(--ink);
  font-weight: 700;
}
</style>
