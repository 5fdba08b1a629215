<script setup lang="ts">
// A region as a file of its own: saved, or one that is loaded onto a track at the cursor.
import { computed, ref } from 'vue'
import { api, asked, csrfToken, refusal, sentence, type AnyRequest } from '../../api/client'
import { useBench } from '../../state/bench'
import { useSelection } from '../../state/selection'
import { useSession } from '../../state/session'

const props = defineProps<{ track: string }>()
/** What lays the loaded one there. */
const loaded = defineModel<AnyRequest | null>({ required: true })
const session = useSession()
const selection = useSelection()
const bench = useBench()
const unread = ref('')
const region = computed(() => (selection.regions.length === 1 ? session.regions.get(selection.regions[0]!)?.region : undefined))

async function load(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  const id = session.data?.id
  if (!file || id === undefined) return
  const body = new FormData()
  body.append('file', file)
  const call = {
    params: { path: { id }, query: { track: props.track, at: bench.cursor } },
    body: body as never,
    bodySerializer: () => body,
    headers: { 'X-CSRFToken': csrfToken() },
  }
  try {
    loaded.value = (await asked(api.POST('/api/sessions/{id}/container', call))).request
    unread.value = ''
  } catch (error) {
    unread.value = sentence(refusal(error))
    loaded.value = null
  }
}
</script>

<template>
  <div class="field">
    <span>Save one as a file</span>
    <a
      v-if="region?.lanes"
      class="link"
      :href="`/api/sessions/${session.data?.id}/export/container/${encodeURIComponent(selection.regions[0]!)}`"
      download
      >save {{ region.name }}</a
    >
    <span v-else class="soft">choose one region with lanes</span>
  </div>
  <div class="field">
    <label for="container-file">Load one onto {{ session.tracks.get(track)?.name }}, at the cursor</label>
    <input id="container-file" type="file" accept=".json" @change="load" />
  </div>
  <p v-if="unread" class="problem" role="alert">{{ unread }}</p>
</template>

<style scoped>
#container-file {
  font: 12px var(--sans);
  width: 190px;
}
</style>
