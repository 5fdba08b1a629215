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
const typed = ref('')
/** What has every word that was typed; what it names whole comes first, then what begins with it. */
const found = computed(() => {
  const text = typed.value.trim().toLowerCase()
  if (!text) return props.options
  const far = (label: string) => (label === text ? 0 : label.startsWith(text) ? 1 : 2)
  const words = text.split(/\s+/)
  return props.options
    .filter((o) => words.every((word) => o.label.toLowerCase().includes(word)))
    .sort((a, b) => far(a.label.toLowerCase()) - far(b.label.toLowerCase()))
})
const said = computed(() => props.options.find((o) => o.value === chosen.value)?.label ?? props.none ?? '')

async function unfold(): Promise<void> {
  typed.value = ''
  open.value = true
  await nextTick()
  list.value?.querySelector('input')?.focus()
  list.value?.querySelector<HTMLElement>('.el-select__wrapper')?.click()
}
/** These keys open the list; letters stay the page's until it is open. */
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
        :options="found"
        filterable
        :filter-method="(text: string) => (typed = text)"
        default-first-option
        size="small"
        :height="200"
        :item-height="25"
        :placement="upwards ? 'top-start' : 'bottom-start'"
        :fallback-placements="['bottom-start', 'top-start']"
        :fit-input-width="false"
        append-to="#lists"
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
