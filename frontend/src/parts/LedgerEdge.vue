<script setup lang="ts">
// The ledger's edge: dragged, or moved with the arrow keys, it makes the ledger wider; far enough to the left folds it away.
import { follow } from '../lib/dragging'
import { useBench } from '../state/bench'

const [LEAST, MOST, STEP] = [180, 720, 24]
const bench = useBench()

function widen(to: number): void {
  bench.ledger = to < LEAST / 2 ? 0 : Math.min(Math.max(Math.round(to), LEAST), MOST)
}
function press(event: PointerEvent): void {
  const [from, was] = [event.clientX, bench.ledger]
  follow(event, { move: (now) => widen(was + now.clientX - from), giveUp: () => (bench.ledger = was), from: 3 })
}
function key(event: KeyboardEvent): void {
  const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (!way) return
  event.preventDefault()
  event.stopPropagation()
  widen(bench.ledger === LEAST && way < 0 ? 0 : bench.ledger + way * STEP)
}
</script>

<template>
  <div
    class="edge"
    role="separator"
    tabindex="0"
    aria-orientation="vertical"
    aria-label="Width of the ledger"
    :aria-valuenow="bench.ledger"
    :aria-valuemin="0"
    :aria-valuemax="MOST"
    :title="bench.ledger ? 'Drag to make the ledger wider; Shift q folds it away' : 'Drag, or Shift q, to see the ledger'"
    @pointerdown="press"
    @keydown="key"
    @dblclick="bench.toggleLedger()"
  />
</template>

<style scoped>
.edge {
  width: 7px;
  cursor: col-resize;
  touch-action: none;
}
.edge:hover {
  background: var(--line);
}
</style>
