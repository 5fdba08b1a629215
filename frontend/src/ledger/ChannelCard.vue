<script setup lang="ts">
// The channel card: a track's controls with their static value, the value at the cursor, and whether a lane drives them.
import { computed, ref, watch } from 'vue'
import { api, asked, type ParameterOut } from '../api/client'
import { useBench } from '../state/bench'
import { useSession } from '../state/session'

const props = defineProps<{ trackId: string }>()
const emit = defineEmits<{ close: [] }>()
const session = useSession()
const bench = useBench()
const track = computed(() => session.tracks.get(props.trackId))
const now = ref(new Map<string, string>())

/** The lane that speaks at the cursor: the region's there, else the track's. */
function laneOf(parameter: ParameterOut) {
  const lanes = session.lanesOf.get(parameter.id) ?? []
  return (
    lanes.find((x) => x.home !== 'track' && bench.cursor >= x.start && bench.cursor < x.end) ??
    lanes.find((x) => x.home === 'track') ??
    lanes[0]
  )
}
watch(
  [() => props.trackId, () => bench.cursor, () => session.data],
  () =>
    session.guarded(async () => {
      const ids = (track.value?.parameters ?? []).map((p) => p.id)
      const id = session.data?.id
      if (!ids.length || id === undefined) return
      const query = { parameters: ids.join('\n'), beat: bench.cursor }
      const answer = await asked(api.GET('/api/sessions/{id}/values', { params: { path: { id }, query } }))
      now.value = new Map(answer.flatMap((row) => Object.entries(row.lanes)))
    }),
  { immediate: true },
)

const groups = computed(() => {
  const out = new Map<string, ParameterOut[]>()
  for (const p of track.value?.parameters ?? []) {
    const name = p.device ?? (p.target ? 'Sends' : 'Channel')
    out.set(name, [...(out.get(name) ?? []), p])
  }
  return [...out]
})

/** Using a control goes to its lane, and makes one at the cursor if there is none. */
async function use(p: ParameterOut): Promise<void> {
  const lane = laneOf(p)
  if (!lane) {
    const spots = [{ at: bench.cursor, value: p.value }]
    if (!(await session.apply({ verb: 'add points', parameter: p.id, home: 'track', spots }))) return
  }
  const found = laneOf(p)
  bench.goTo(p.id)
  if (found) bench.chosen = [found.id]
}
</script>

<template>
  <section v-if="track" class="card" :aria-label="`Channel card of ${track.name}`">
    <header>
      <b>{{ track.name }}</b>
      <span class="soft">{{ track.reads ? track.mode : 'not reading' }}</span>
      <button class="link soft" @click="emit('close')">close</button>
    </header>
    <div class="scroll">
      <template v-for="[name, parameters] in groups" :key="name">
        <h3>{{ name }}</h3>
        <button
          v-for="p in parameters"
          :key="p.id"
          class="plain-button control"
          :title="laneOf(p) ? 'Go to its lane' : 'Make a lane for it at the cursor'"
          @click="use(p)"
        >
          <span :class="`ink-${p.kind === 'continuous' ? p.family : p.kind}`">{{ p.name }}</span>
          <span class="number">{{ laneOf(p) ? now.get(laneOf(p)!.id) : p.value_text }}</span>
          <small class="soft">{{ laneOf(p) ? `lane, rests at ${p.value_text}` : 'no lane' }}</small>
        </button>
      </template>
    </div>
  </section>
</template>

<style scoped>
.card {
  border-top: 1px solid var(--ink);
  background: var(--sheet);
  max-height: 46%;
  display: flex;
  flex-direction: column;
}
header {
  display: flex;
  gap: 8px;
  padding: 6px 12px;
  border-bottom: 1px solid var(--line);
}
header .link {
  margin-left: auto;
}
.scroll {
  overflow: auto;
  padding-bottom: 6px;
  scrollbar-width: thin;
}
h3 {
  font-size: 11px;
  font-weight: 600;
  color: var(--soft);
  padding: 5px 12px 1px;
}
.control {
  display: grid;
  grid-template-columns: 1fr auto;
  width: 100%;
  padding: 2px 12px;
}
.control:hover {
  background: var(--sand);
}
.control small {
  grid-column: 1 / -1;
  font-size: 11px;
}
</style>
