<script setup lang="ts">
// Every key Velmot listens to.
import { nextTick, ref, watch } from 'vue'
import { KEYS } from '../lib/table'
import { helpAt } from '../lib/help'
import { hints } from '../state/hints'
import { letters } from '../state/keys'

const shown = defineModel<boolean>({ required: true })
const dialog = ref<HTMLDialogElement | null>(null)
watch(
  shown,
  async (now) => {
    await nextTick()
    if (now) dialog.value?.showModal()
    else dialog.value?.close()
  },
  { immediate: true },
)
</script>

<template>
  <dialog ref="dialog" aria-labelledby="keys-title" @close="shown = false" @keydown.stop @pointerdown.self="shown = false">
    <div v-if="shown" class="inside">
      <h2 id="keys-title">Keys</h2>
      <button class="link soft" autofocus @click="shown = false">close</button>
      <p>
        <ElCheckbox v-model="letters" label="keys of one letter or sign work" size="small" />
        <a v-if="helpAt" class="link" :href="`${helpAt}index.html`" target="velmot-help">the docs</a>
        <ElCheckbox v-model="hints" label="a line of hints at the foot of the strips" size="small" />
      </p>
      <dl tabindex="0" aria-label="Keys and what they do">
        <template v-for="key in KEYS" :key="key.written + key.says">
          <dt class="number">{{ key.written }}</dt>
          <dd>{{ key.says }}</dd>
        </template>
      </dl>
    </div>
  </dialog>
</template>

<style scoped>
dialog {
  width: min(660px, 94vw);
  padding: 0;
  border: 1px solid var(--ink);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
  box-shadow: var(--el-box-shadow-light);
}
dialog::backdrop {
  background: rgb(20 16 8 / 30%);
}
.inside {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
  max-height: 82vh;
  padding: 14px 18px;
}
h2 {
  font-size: 16px;
}
p {
  grid-column: 1 / -1;
}
dl {
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: minmax(90px, 230px) 1fr;
  gap: 3px 16px;
  margin: 0;
  overflow: auto;
  min-height: 0;
}
dt {
  font-weight: 600;
}
dd {
  margin: 0;
}
</style>
