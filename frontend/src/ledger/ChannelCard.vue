<script setup lang="ts">
// The channel card: a track's controls with their static value, the value at the cursor, and whether a lane drives them.
import NoteField from '../parts/NoteField.vue'
import { computed, onMounted, ref } from 'vue'
import type { ParameterOut } from '../api/client'
import { useValues } from '../state/curves'
import { inkOf } from '../state/content'
import { useBench } from '../state/bench'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { setUp } from '../state/setUps'
import { useWorksheet } from '../state/worksheet'

const props = defineProps<{ trackId: string; beside: number }>()
const emit = defineEmits<{ close: [] }>()
const session = useSession()
const worksheet = useWorksheet()
const selection = useSelection()
const bench = useBench()
const whole = ref<HTMLElement | null>(null)
const top = ref(0)
/** Beside the track's name, and wholly on the page. */
onMounted(() => {
  const page = whole.value?.offsetParent?.getBoundingClientRect()
  if (!page || !whole.value) return
  top.value = Math.max(Math.min(props.beside - page.top - 24, page.height - whole.value.offsetHeight - 6), 4)
  whole.value.querySelector('button')?.focus()
})
const track = computed(() => session.tracks.get(props.trackId))
/** A group's members: the levels that its fader is added to. */
const members = computed(() =>
  (track.value?.member_ids ?? []).flatMap((id) => {
    const member = session.tracks.get(id)
    const level = member?.parameters.find((p) => p.family === 'level')
    return member && level ? [{ id, name: member.name, level: level.id }] : []
  }),
)
const values = useValues(
  () => [...(track.value?.parameters ?? []).map((p) => p.id), ...members.value.map((m) => m.level)],
  () => bench.cursor,
)

/** The lane that is heard at the cursor, else the first there is. */
function laneOf(parameter: ParameterOut) {
  return session.speakingAt(parameter.id, bench.cursor) ?? session.lanesOf.get(parameter.id)?.[0]
}
function valueOf(p: ParameterOut): string {
  const lane = laneOf(p)
  return lane ? (values.value.get(p.id)?.lanes[lane.id] ?? '') : p.value_text
}

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
  if (found) selection.lanes = [found.id]
}
/** Go where its sound is set. */
function changeSound(): void {
  setUp<string[]>('sound.tracks', []).value = [props.trackId]
  selection.regions = []
  worksheet.verb = 'sound'
}
</script>

<template>
  <section
    v-if="track"
    ref="whole"
    class="card"
    :aria-label="`Channel card of ${track.name}`"
    :style="{ left: `${bench.ledger + 6}px`, top: `${top}px` }"
    @keydown.escape.stop="emit('close')"
  >
    <header>
      <b>{{ track.name }}</b>
      <button
        class="link soft"
        :class="{ alarm: !track.reads }"
        :title="`Set the mode of ${track.name}`"
        @click="worksheet.setMode(track.id, track.reads)"
      >
        {{ track.reads ? track.mode : 'not reading' }}
      </button>
      <button class="link soft" @click="emit('close')">close</button>
    </header>
    <p v-if="track.sound" class="soft sounds">
      sounds as {{ track.sound }}
      <button class="link soft" type="button" @click="changeSound">change it</button>
    </p>
    <p class="sounds"><NoteField about="track" :of="trackId" :called="track.name" /></p>
    <div class="scroll">
      <template v-if="members.length">
        <h3>Members: own, with all groups</h3>
        <button
          v-for="m in members"
          :key="m.id"
          class="plain-button control"
          title="Go to its level"
          @click="bench.goTo(m.level)"
        >
          <span>{{ m.name }}</span>
          <span class="number">{{ values.get(m.level)?.own }} → {{ values.get(m.level)?.text }}</span>
        </button>
      </template>
      <template v-for="[name, parameters] in groups" :key="name">
        <h3>{{ name }}</h3>
        <button
          v-for="p in parameters"
          :key="p.id"
          class="plain-button control"
          :title="laneOf(p) ? 'Go to its lane' : 'Make a lane for it at the cursor'"
          @click="use(p)"
        >
          <span :class="`ink-${inkOf(p)}`">{{ p.name }}</span>
          <span class="number">{{ valueOf(p) }}</span>
          <small v-for="s in values.get(p.id)?.shares" :key="s.group" class="soft"
            >{{ s.name }} adds {{ s.text }}: net {{ values.get(p.id)?.text }}</small
          >
          <small class="soft"
            >{{ laneOf(p) ? `lane, rests at ${p.value_text}` : 'no lane'
            }}{{ p.soundless ? ', not heard: no stand-in' : '' }}</small
          >
        </button>
      </template>
    </div>
  </section>
</template>

<style scoped>
.sounds {
  padding: 0 12px 4px;
  font-size: 12px;
}
.card {
  position: absolute;
  z-index: 4;
  width: 262px;
  max-height: min(420px, 90%);
  border: 1px solid var(--ink);
  border-radius: 3px;
  background: var(--sheet);
  box-shadow: var(--el-box-shadow-light);
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
