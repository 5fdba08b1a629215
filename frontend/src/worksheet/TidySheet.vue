<script setup lang="ts">
// Tidy: what is found in the session; where else something runs like a chosen range; and everything that is there for nothing.
import { computed } from 'vue'
import { setUp } from '../state/setUps'
import ChoiceField from '../parts/fields/ChoiceField.vue'
import CleanUp from './tidy/CleanUp.vue'
import FoundList from './tidy/FoundList.vue'
import WhereElse from './tidy/WhereElse.vue'

type Way = 'found' | 'else' | 'clean'
const way = setUp<Way>('tidy.way', 'found')
const part = computed(() => ({ found: FoundList, else: WhereElse, clean: CleanUp })[way.value])
</script>

<template>
  <form class="tidy" @submit.prevent>
    <ChoiceField
      v-model="way"
      class="ways"
      data-field="what"
      bare
      asks="What to tidy"
      :choices="[
        { value: 'found', words: 'what is found' },
        { value: 'else', words: 'where else?' },
        { value: 'clean', words: 'clean up everything' },
      ]"
    />
    <component :is="part" class="part" />
  </form>
</template>

<style scoped>
.tidy {
  display: flex;
  flex-direction: column;
  height: 100%;
  min-height: 0;
}
.ways {
  flex: none;
  padding: 6px 12px 0;
}
.part {
  flex: 1;
  min-height: 0;
}
.part:has(.tools) {
  display: flex;
  flex-direction: column;
}
/* What the lists of the parts have in common: a line of tools, and rows. */
.part :deep(.tools) {
  display: flex;
  flex: none;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 14px;
  min-height: 30px;
  padding: 4px 12px;
  border-bottom: 1px solid var(--line);
}
.part :deep(.list) {
  flex: 1;
  min-height: 66px;
  overflow: auto;
}
.part :deep(ul) {
  box-sizing: border-box;
  margin: 0;
  padding: 0;
  list-style: none;
}
.part :deep(li) {
  display: flex;
  align-items: center;
  gap: 8px;
  height: 22px;
  padding: 0 12px;
  white-space: nowrap;
}
.part :deep(.empty) {
  padding: 14px 12px;
}
/* Where there is room, what a part is told stands in the same line. */
@media (width >= 1240px) {
  .tidy {
    position: relative;
  }
  .ways {
    position: absolute;
    padding-top: 4px;
  }
  .part :deep(.tools) {
    min-height: 32px;
    padding-left: 342px;
  }
  .part:not(:has(.tools)) {
    padding-top: 34px;
  }
}
</style>
