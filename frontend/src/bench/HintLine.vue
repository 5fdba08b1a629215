<script setup lang="ts">
// A line at the foot of the strips: what a hand can do where the pointer is. It lies over them and takes no press but its own.
import { onBeforeUnmount, onMounted, ref } from 'vue'
import { hintAt } from '../lib/hints'
import { hints } from '../state/hints'

const said = ref(hintAt(null))
const look = (event: PointerEvent) => {
  if (!event.buttons) said.value = hintAt(event.target as Element)
}
onMounted(() => window.addEventListener('pointerover', look))
onBeforeUnmount(() => window.removeEventListener('pointerover', look))
</script>

<template>
  <p class="hint-line">
    <span>{{ said }}</span>
    <button class="link soft" title="Keys (?) has them back" @click="hints = false">no hints</button>
  </p>
</template>

<style scoped>
.hint-line {
  position: absolute;
  right: 0;
  bottom: 0;
  z-index: 3;
  display: flex;
  gap: 10px;
  max-width: 100%;
  padding: 2px 10px;
  border-top-left-radius: 3px;
  background: var(--sand);
  color: var(--soft);
  font-size: 12px;
  pointer-events: none;
}
span {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
button {
  flex: none;
  pointer-events: auto;
}
</style>
