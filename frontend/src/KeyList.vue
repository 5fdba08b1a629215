<script setup lang="ts">
// Every key Velmot listens to.
const shown = defineModel<boolean>({ required: true })
const KEYS: [string, string][] = [
  ['/', 'find a lane'],
  ['Up, Down in the ledger', 'walk through the lanes; Enter goes to one'],
  ['w, Shift w', 'walk to the next or the last lane of the track'],
  ['e, Shift e', 'the same parameter on the next or the last track'],
  ['s', 'the next set of pinned lanes'],
  ['c, t, g, m, p, r, d, x, v', 'Carry, Retarget, Regions, Embed / lift, Points, Raise, Draw, Clear, Paste'],
  ['u', 'what is heard, drawn on every strip, or on none'],
  ['k', 'look closer at the chosen region, or back'],
  ['click, drag on a region’s name', 'choose it, move it (with Ctrl copy); double click looks closer'],
  ['Ctrl Enter', 'apply what the worksheet shows'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
  ['Ctrl C, Ctrl X, Ctrl V', 'copy, cut (sealed) and paste to the same place'],
  ['Ctrl A', 'pick every point of the chosen lanes'],
  ['n, b on a strip', 'the next point, the one before'],
  ['a on a strip', 'add a point at the cursor'],
  ['arrows with points picked', 'nudge by the grid or a step; Alt finer, Shift coarser'],
  ['Enter, Delete with points picked', 'type their value; remove them'],
  ['l, h with points picked', 'a straight line after each, or hold'],
  ['Left, Right', 'move the window of bars'],
  ['+, −, i, o', 'closer, wider, the range in view, overview of the session'],
  ['Escape', 'let go of the range and the points'],
  ['wheel', 'move in time; with Ctrl or Alt closer and wider; with Shift through the strips'],
  ['Alt while dragging', 'free of the grid; Shift keeps to one direction'],
  ['Shift or Ctrl with a click', 'pick one more point; Ctrl on the chart chooses one more lane'],
  ['Shift and drag', 'pick the points inside a box'],
  ['double click', 'add a point'],
  ['?', 'this list'],
]
</script>

<template>
  <ElDialog v-model="shown" title="Keys" width="640" append-to-body>
    <dl>
      <template v-for="[key, says] in KEYS" :key="key">
        <dt class="number">{{ key }}</dt>
        <dd>{{ says }}</dd>
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
