<script setup lang="ts">
// A mark, as the heading of what led to it: its words, what changed since the one before, and what can be done with it.
import { ref } from 'vue'
import { api, asked, type MarkOut, type Schemas } from '../api/client'
import { useSession } from '../state/session'
import { counted, isolated } from '../lib/words'

const props = defineProps<{ mark: MarkOut }>()
const emit = defineEmits<{ edit: []; off: [] }>()
const session = useSession()
const since = ref<Schemas['BetweenOut'] | null>(null)

async function showSince(): Promise<void> {
  if (since.value) {
    since.value = null
    return
  }
  await session.guarded(async () => {
    const path = { id: session.data!.id, number: props.mark.number }
    since.value = await asked(api.GET('/api/sessions/{id}/marks/{number}/changes', { params: { path } }))
  })
}
</script>

<template>
  <div class="mark">
    <h2>{{ isolated(mark.name) }}</h2>
    <p v-if="mark.note">{{ isolated(mark.note) }}</p>
    <p class="soft does">
      <button class="link" :aria-expanded="!!since" @click="showSince">what changed up to it</button>
      <button class="link" @click="emit('edit')">change its words</button>
      <button class="link" @click="emit('off')">take the mark off</button>
    </p>
    <p v-if="since">
      {{ counted(since.steps, 'step') }} since {{ since.since ? `step ${since.since}` : 'the beginning' }}:
      <template v-if="since.parameters.length"
        >{{ since.parameters.join(', ') }}<span v-if="since.more"> and {{ counted(since.more, 'more lane') }}</span></template
      >
      <template v-else>no lane differs</template>
    </p>
  </div>
</template>

<style scoped>
.mark {
  padding: 14px 4px 6px;
}
h2 {
  font-size: 15px;
}
.does {
  display: flex;
  gap: 14px;
}
</style>
