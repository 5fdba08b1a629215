<script setup lang="ts">
// One of a list, the same everywhere: a button that says what is chosen, and a list that is filtered by typing.
// The list is made when it is wanted: a page has many of them, and shows none at first.
import { computed, nextTick, ref } from 'vue'

const props = defineProps<{
  options: { value: string; label: string }[]
  label: string
  /** What it says while nothing is chosen. */
  none?: string
  upwards?: boolean
}>()
const chosen = defineModel<string>({ required: true })
const open = ref(false)
const button = ref<HTMLButtonElement | null>(null)
const list = ref<HTMLElement | null>(null)
const said = computed(() => props.options.find((o) => o.value === chosen.value)?.label ?? props.none ?? '')

async function unfold(typed = ''): Promise<void> {
  open.value = true
  await nextTick()
  const input = list.value?.querySelector('input')
  input?.focus()
  list.value?.querySelector<HTMLElement>('.el-select__wrapper')?.click()
  if (!typed || !input) return
  input.value = typed
  input.dispatchEvent(new InputEvent('input', { bubbles: true }))
}
/** Letters open the list on what they find; other keys are the page's. */
function key(event: KeyboardEvent): void {
  const opens = ['ArrowDown', 'ArrowUp', 'Enter', ' '].includes(event.key)
  if (!opens || event.ctrlKey || event.metaKey || event.altKey) return
  event.preventDefault()
  event.stopPropagation()
  void unfold()
}
/** Once closed there is the button again; the keys go on from it unless they went elsewhere. */
async function shown(now: boolean): Promise<void> {
  if (now) return
  const here = list.value?.contains(document.activeElement) || document.activeElement === document.body
  open.value = false
  await nextTick()
  if (here) button.value?.focus()
}
</script>

<template>
  <span class="chooser">
    <span v-if="open" ref="list" class="opened">
      <ElSelectV2
        v-model="chosen"
        :options="options"
        filterable
        default-first-option
        size="small"
        :height="200"
        :item-height="25"
        :placement="upwards ? 'top-start' : 'bottom-start'"
        :fallback-placements="['bottom-start', 'top-start']"
        :fit-input-width="false"
        popper-class="low-list"
        :placeholder="said"
        :aria-label="label"
        @visible-change="shown"
      />
    </span>
    <button
      v-else
      ref="button"
      type="button"
      class="plain-button closed"
      aria-haspopup="listbox"
      aria-expanded="false"
      :aria-label="`${label}: ${said}`"
      @click="unfold()"
      @keydown="key"
    >
      {{ said }}
    </button>
  </span>
</template>

<style scoped>
.chooser {
  display: inline-flex;
  min-width: 0;
}
.opened {
  width: 100%;
  min-width: 120px;
}
.closed {
  width: 100%;
  min-width: 0;
  height: 22px;
  padding: 0 18px 0 7px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  border: 1px solid var(--line);
  border-radius: 3px;
  background:
    linear-gradient(45deg, transparent 50%, var(--soft) 50%) right 10px top 9px / 4px 4px no-repeat,
    linear-gradient(-45deg, transparent 50%, var(--soft) 50%) right 6px top 9px / 4px 4px no-repeat,
    var(--sheet);
}
.closed:hover {
  border-color: var(--soft);
}
</style>
