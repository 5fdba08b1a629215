<script setup lang="ts">
// Ride: the desk. Transport and passes on the left, the controls in ruled columns, and how what hands do is written.
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import Setting from '../parts/fields/Setting.vue'
import Chooser from '../parts/Chooser.vue'
import { useController } from '../state/desk/controller'
import DeskColumn from './desk/DeskColumn.vue'
import { useDeskKeys } from '../state/desk/keys'
import PassList from './desk/PassList.vue'
import { useRiding } from '../state/desk/riding'
import { WRITING, type Mode } from '../state/desk/pass'
import ScriptField from './desk/ScriptField.vue'
import TransportBar from './desk/TransportBar.vue'
import { usePreviewOf } from '../state/preview'
import { useSession } from '../state/session'
import { useWorksheet } from '../state/worksheet'
import { useOneStop } from '../state/oneStop'
import BoundFields from '../parts/fields/BoundFields.vue'

const session = useSession()
const worksheet = useWorksheet()
const riding = useRiding()
const controller = useController()
useDeskKeys(() => (document.activeElement?.closest('[data-control]') as HTMLElement | null)?.dataset['control'])

usePreviewOf(
  computed(() => riding.request ?? riding.readied),
  () => (riding.known.length ? 'Press play, and take hold of a control.' : 'Put a control on the desk.'),
)
const settling = ref(false)
const desk = ref<HTMLElement | null>(null)
useOneStop(desk, '.rule', ['ArrowLeft', 'ArrowRight'])
// By key, or from the finder: the keys go on from the first control.
onMounted(async () => {
  await nextTick()
  const here = document.activeElement
  if (!here?.matches('input, textarea')) desk.value?.querySelector<HTMLElement>('.rule')?.focus()
})
onMounted(async () => {
  riding.open = true
  riding.fill()
  if (!worksheet.folded) return
  // A desk in one line is none: it lies over the strips, which stay where they are.
  worksheet.over = true
  worksheet.folded = false
  // Who folds it from now on wants it so.
  await nextTick()
  watch(
    () => worksheet.folded,
    () => (worksheet.over = false),
  )
})
onBeforeUnmount(() => {
  riding.open = false
  if (worksheet.over) worksheet.folded = true
  worksheet.over = false
})

/** What can be put on the desk: every control, and of each track what is ridden most. */
const addable = computed(() => {
  const tracks = session.data?.tracks ?? []
  const whole = tracks.map((track) => ({ value: `track ${track.id}`, label: `${track.name}: level, pan, mute and sends` }))
  const single = tracks.flatMap((track) =>
    track.parameters.filter((p) => !riding.known.includes(p.id)).map((p) => ({ value: p.id, label: `${track.name} ${p.name}` })),
  )
  return [...whole, ...single]
})
function add(id: string): void {
  const track = id.startsWith('track ') && session.tracks.get(id.slice(6))
  riding.put(track ? track.parameters.filter((p) => p.family !== 'device').map((p) => p.id) : [id])
}
const netted = computed(() => [...riding.controls.values()].some((c) => c.adds.length))
const everyMode = computed(() => {
  const modes = new Set(riding.known.map((id) => riding.settingOf(id).mode))
  return modes.size === 1 ? [...modes][0]! : ''
})
function setAll(mode: string): void {
  for (const id of riding.known) riding.set(id, { mode: mode as Mode })
}
</script>

<template>
  <form class="desk form" aria-label="Desk" @submit.prevent>
    <fieldset class="side">
      <TransportBar class="graph" />
      <p v-if="riding.room" class="warn" role="status">{{ riding.room }}</p>
      <div class="row graph">
        <span class="soft">Hand</span>
        <ScriptField />
      </div>
      <div class="row graph">
        <span class="soft">All in</span>
        <Chooser
          label="Mode of all"
          :model-value="everyMode"
          none="modes of their own"
          :options="WRITING.map((mode) => ({ value: mode, label: mode }))"
          upwards
          @update:model-value="setAll"
        />
      </div>
      <button class="link soft graph" type="button" :aria-expanded="settling" @click="settling = !settling">
        {{ settling ? 'the passes' : 'how it is written' }}
      </button>
      <PassList v-if="!settling || worksheet.folded" data-field="passes" />
      <div v-if="settling || worksheet.folded" class="how">
        <Setting v-model="riding.back" of="ride/return_over" asks="Way back" />
        <BoundFields
          v-model="riding.bounds"
          :parameters="riding.known.map((id) => session.parameters.get(id)!.parameter)"
          label="Thinned within"
        />
        <div v-if="netted" class="field" data-field="shows">
          <ElCheckbox
            :model-value="riding.shows === 'heard'"
            label="levels show what is heard"
            title="With what groups add, which is taken off what is written"
            size="small"
            @update:model-value="(on: unknown) => (riding.shows = on ? 'heard' : 'own')"
          />
        </div>
        <Setting v-model="riding.lands" of="ride/lands" tick />
        <p v-if="controller.offered">
          <span v-if="controller.on" class="soft">A controller can be used: press <i>learn</i> in a column.</span>
          <button v-else class="link soft" type="button" @click="controller.start()">use a controller</button>
          <span v-if="controller.problem" class="soft"> {{ controller.problem }}.</span>
        </p>
      </div>
    </fieldset>
    <div ref="desk" class="columns graph">
      <DeskColumn v-for="(id, n) in riding.known" :key="id" :parameter-id="id" :number="n + 1" />
      <div class="add">
        <Chooser
          label="Put on the desk"
          model-value=""
          none="put on the desk"
          :options="addable"
          upwards
          @update:model-value="add"
        />
        <p v-if="!riding.known.length" class="soft">Nothing is on the desk yet.</p>
      </div>
    </div>
  </form>
</template>

<style scoped>
.warn {
  color: var(--fresh);
  font-weight: 700;
}
.desk {
  display: grid;
  grid: minmax(0, 1fr) / 242px minmax(0, 1fr);
  align-content: stretch;
  height: 100%;
  padding: 0;
  gap: 0;
}
.side {
  min-width: 0;
  padding: 6px 10px;
  overflow: auto;
  border-right: 1px solid var(--line);
}
.columns {
  display: flex;
  min-width: 0;
  overflow-x: auto;
  overflow-y: hidden;
}
.add {
  width: 124px;
  flex: none;
  padding: 6px 4px 6px 6px;
}
.row {
  display: grid;
  grid-template-columns: 44px minmax(0, 1fr);
  align-items: center;
  margin-top: 3px;
  font-size: 12px;
}
.how .field {
  min-height: 25px;
  border: 0;
}
</style>
