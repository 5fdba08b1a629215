<script setup lang="ts">
// Recipes of a verb: keep the sheet's settings under a name, use kept ones on what is chosen now, forget them.
import { computed, ref } from 'vue'
import { api, asked, surely, type AnyRequest } from '../../api/client'
import { useWorksheet } from '../../state/worksheet'
import { useSelection } from '../../state/selection'
import { useNotices } from '../../state/notices'
import { useRecipes } from '../../state/recipes'
import { useSession } from '../../state/session'
import Chooser from '../Chooser.vue'

const props = defineProps<{ verb: 'carry' | 'retarget' | 'follow'; request: AnyRequest | null }>()
const session = useSession()
const worksheet = useWorksheet()
const selection = useSelection()
const notices = useNotices()
const recipes = useRecipes()
const name = ref('')
const used = ref('')
const mine = computed(() => recipes.all.filter((r) => r.verb === props.verb))
void recipes.fetch()

async function keep(): Promise<void> {
  const id = session.data?.id
  const { request } = props
  if (id === undefined || !request || !name.value.trim()) return
  const kept = await session.guarded(async () => {
    const body = { name: name.value, request }
    await surely(() => api.POST('/api/sessions/{id}/recipes', { params: { path: { id } }, body }))
  })
  if (!kept) return
  used.value = name.value.trim()
  name.value = ''
  await recipes.fetch()
}
async function use(): Promise<void> {
  const id = session.data?.id
  const recipe = mine.value.find((r) => r.name === used.value)?.id
  if (id === undefined || recipe === undefined) return
  if (!selection.lanes.length) {
    notices.refuse('Drag over a strip first: a recipe is used on what is chosen')
    used.value = ''
    return
  }
  await session.guarded(async () => {
    const body = { lanes: selection.lanes, start: selection.range?.start ?? null, end: selection.range?.end ?? null }
    const call = { params: { path: { id, recipe } }, body }
    const answer = await asked(api.POST('/api/sessions/{id}/recipes/{recipe}', call))
    worksheet.reopen(answer.request, selection.lanes)
    if (answer.missing.length) notices.note(`Not all of the recipe fits here: ${answer.missing.join('; ')}`)
  })
}
async function forget(): Promise<void> {
  const recipe = mine.value.find((r) => r.name === used.value)?.id
  if (recipe === undefined) return
  await session.guarded(async () => {
    await surely(() => api.DELETE('/api/recipes/{recipe}', { params: { path: { recipe } } }))
  })
  used.value = ''
  await recipes.fetch()
}
</script>

<template>
  <span class="recipes">
    <Chooser
      v-model="used"
      label="Use a recipe"
      :none="mine.length ? 'use a recipe' : 'no recipes yet'"
      :options="mine.map((r) => ({ value: r.name, label: r.name }))"
      @update:model-value="use"
    />
    <button v-if="used" class="link soft" type="button" @click="forget">forget</button>
    <input
      v-model="name"
      placeholder="name a recipe"
      aria-label="Name for a recipe"
      maxlength="80"
      @keydown.enter.prevent="keep"
    />
    <button class="link" type="button" :disabled="!name.trim() || !request" @click="keep">keep</button>
  </span>
</template>

<style scoped>
.recipes {
  display: inline-flex;
  gap: 8px;
  align-items: baseline;
  font-weight: 400;
}
.chooser {
  width: 130px;
}
input {
  font: 12px var(--sans);
  height: 20px;
  border: 0;
  border-bottom: 1px dotted var(--soft);
  background: transparent;
  color: var(--ink);
  width: 116px;
}
button:disabled {
  color: var(--soft);
  cursor: default;
  text-decoration: none;
}
</style>
