<script setup lang="ts">
// Play, stop, back to the start; round the range or on; the window follows or stays.
import { SHORTEST_ROUND, useTransport } from '../../state/desk/transport'

const transport = useTransport()
</script>

<template>
  <div class="transport" role="group" aria-label="Transport">
    <button class="play" :class="{ running: transport.running }" type="button" @click="transport.toggle()">
      {{ transport.running || transport.preparing ? 'Stop' : 'Play' }}
    </button>
    <span>
      <button class="link" type="button" title="Back to the start (Home)" @click="transport.toStart()">to the start</button>
      <ElCheckbox v-model="transport.following" label="follow" title="The window turns with time, page by page" size="small" />
    </span>
    <ElCheckbox
      v-model="transport.looping"
      :label="transport.tooShort ? `round the range (from ${SHORTEST_ROUND} s on)` : 'round the range'"
      size="small"
    />
  </div>
</template>

<style scoped>
.transport {
  display: grid;
  grid-template-columns: 76px auto;
  align-items: center;
  justify-content: start;
  justify-items: start;
  column-gap: 12px;
}
.transport :deep(.el-checkbox) {
  height: 18px;
  margin: 0;
}
.transport span {
  display: flex;
  align-items: center;
  gap: 12px;
}
.play {
  grid-row: span 2;
  height: 34px;
  width: 76px;
  border: 1px solid var(--ink);
  border-radius: 3px;
  background: var(--sheet);
  font-weight: 700;
  cursor: pointer;
}
.play.running {
  background: var(--ink);
  color: var(--on-ink);
}
</style>
