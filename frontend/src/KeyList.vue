<script setup lang="ts">
// Every key Velmot listens to.
const shown = defineModel<boolean>({ required: true })
const KEYS: [string, string][] = [
  ['/', 'find a lane'],
  ['Up, Down in the ledger', 'walk through the lanes; Enter goes to one'],
  ['c', 'Carry'],
  ['Ctrl Enter', 'apply what the worksheet shows'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
  ['Left, Right', 'move the window of bars'],
  ['+, −', 'closer, wider'],
  ['i', 'look at the range'],
  ['o', 'overview: the whole session'],
  ['Escape', 'let go of the range'],
  ['wheel', 'move in time; with Ctrl or Alt closer and wider; with Shift through the strips'],
  ['Alt while dragging', 'free of the grid'],
  ['?', 'this list'],
]
</script>

<template>
  <ElDialog v-model="shown" title="Keys" width="560" append-to-body>
    <dl>
      <template v-for="[key, says] in KEYS" :key="key">
        <dt class="number">{{ key }}</dt>
        <dd>{{ says }}</dd>
      </template>
    </dl>
  </ElDialog>
</template>

<style scoped>
dl { display: grid; grid-template-columns: 190px 1fr; gap: 6px 16px; margin: 0; }
dt { font-weight: 600; }
dd { margin: 0; }
</style>
