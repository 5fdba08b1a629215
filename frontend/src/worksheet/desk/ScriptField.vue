<script setup lang="ts">
// A scripted hand on the desk: one that ships with Velmot, or one from a file.
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue'
import { api, asked, refusal, sentence } from '../../api/client'
import Chooser from '../../parts/Chooser.vue'
import { useAsking } from '../../state/asking'
import { useNotices } from '../../state/notices'
import { useSession } from '../../state/session'
import { useRiding } from '../../state/desk/riding'
import { playScript, type Ride } from '../../state/desk/script'

const session = useSession()
const riding = useRiding()
const notices = useNotices()
const file = ref<HTMLInputElement | null>(null)
const chosen = ref('')
const playing = shallowRef<ReturnType<typeof playScript> | null>(null)
const question = computed(() => (session.data ? { id: session.data.id, desk: riding.known.join('\n') } : null))
const { answer: rides } = useAsking(
  () => question.value,
  ({ id, desk }, signal) => asked(api.GET('/api/sessions/{id}/rides', { params: { path: { id }, query: { desk } }, signal })),
  { keep: true },
)
const options = computed(() => [
  { value: '', label: 'your own hand' },
  ...(rides.value ?? []).map((ride) => ({ value: ride.name, label: ride.name })),
  { value: 'file', label: 'a ride from a file…' },
])
function take(ride: Ride): void {
  playing.value?.end()
  playing.value = ride.hands.length ? playScript(ride) : null
  for (const name of ride.missing) notices.note(`${ride.name} rides ${name}, which is not here.`)
}
function choose(name: string): void {
  if (name === 'file') return file.value?.click()
  chosen.value = name
  playing.value?.end()
  playing.value = null
  const ride = rides.value?.find((one) => one.name === name)
  if (ride) take(ride)
}
async function open(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const [found] = input.files ?? []
  const id = session.data?.id
  if (!found || id === undefined) return
  try {
    const body = { text: await found.text(), desk: riding.known }
    const ride = await asked(api.POST('/api/sessions/{id}/rides', { params: { path: { id } }, body }))
    chosen.value = ''
    take(ride)
  } catch (error) {
    notices.refuse(sentence(refusal(error)))
  }
  input.value = ''
}
onBeforeUnmount(() => playing.value?.end())
</script>

<template>
  <span class="script">
    <Chooser label="Whose hand" :model-value="chosen" :options="options" upwards @update:model-value="choose" />
    <input ref="file" type="file" accept=".json" hidden aria-label="A ride file" @change="open" />
  </span>
</template>
