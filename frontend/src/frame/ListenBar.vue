<script setup lang="ts">
// In the head: which of the two is heard, equally loud with its figure, how many tracks are heard, and the master's two lines.
import { computed } from 'vue'
import { useTransport } from '../state/desk/transport'
import { useListening } from '../state/listening'
import MeterLines from '../parts/MeterLines.vue'

const listening = useListening()
const transport = useTransport()
const emit = defineEmits<{ readings: [] }>()
const figure = computed(() => {
  const by = listening.louder
  return by === null ? '' : `${by < 0 ? '−' : '+'}${Math.abs(by).toFixed(1)} dB`
})
</script>

<template>
  <div class="listen" role="group" aria-label="Listening">
    <span class="two" role="radiogroup" aria-label="What is heard">
      <button
        type="button"
        role="radio"
        :aria-checked="listening.heard === 'now'"
        :class="{ on: listening.heard === 'now' }"
        title="Hear what is there now (Shift n swaps)"
        @click="listening.swap('now')"
      >
        now
      </button>
      <button
        type="button"
        role="radio"
        class="applied"
        :aria-checked="listening.heard === 'applied'"
        :class="{ on: listening.heard === 'applied' }"
        :disabled="!listening.coming"
        :title="listening.coming ? 'Hear what would come (Shift n swaps)' : 'Nothing is asked for that could be heard'"
        @click="listening.swap('applied')"
      >
        if applied
      </button>
    </span>
    <button
      v-if="listening.coming"
      type="button"
      class="link soft even"
      :aria-pressed="listening.even"
      :class="{ on: listening.even }"
      :title="`The louder one is lowered${figure ? `: if applied it is ${figure}` : ''}`"
      @click="listening.even = !listening.even"
    >
      equally loud<b v-if="listening.even && figure" class="number"> {{ figure }}</b>
    </button>
    <button
      v-if="transport.running || listening.levels"
      type="button"
      class="plain-button master"
      title="Peak, mean and loudness of every track over the range"
      aria-label="Readings"
      @click="emit('readings')"
    >
      <MeterLines :levels="listening.levels?.master ?? null" :width="64" shows-peak :over="listening.overText()" />
    </button>
  </div>
</template>

<style scoped>
.listen {
  display: flex;
  align-items: center;
  gap: 8px;
  font-size: 12px;
}
.two {
  display: flex;
  border: 1px solid var(--ink);
  border-radius: 3px;
  overflow: hidden;
}
.two button {
  height: 22px;
  padding: 0 7px;
  border: 0;
  background: var(--sheet);
  color: var(--ink);
  font: inherit;
  cursor: pointer;
}
.two button.on {
  background: var(--ink);
  color: var(--on-ink);
  font-weight: 700;
}
.two .applied.on {
  background: var(--fresh);
}
.two button:disabled {
  color: var(--off);
  cursor: default;
}
.even.on {
  color: var(--ink);
  font-weight: 700;
}
.master {
  display: flex;
  align-items: center;
}
</style>
