<script setup lang="ts">
// Readings: peak, mean and loudness of every track over the range, now and if applied, and where each is loudest.
import { computed, onMounted, ref, watch } from 'vue'
import { api, asked, refusal, sentence, type Schemas } from '../api/client'
import { useTransport } from '../state/desk/transport'
import { beatAfter, secondsAt } from '../lib/clock'
import { usePreview } from '../state/preview'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { useBench } from '../state/bench'
import { useListening } from '../state/listening'

type Row = Schemas['ReadingOut']
const emit = defineEmits<{ close: [] }>()
const session = useSession()
const selection = useSelection()
const preview = usePreview()
const bench = useBench()
const listening = useListening()
const transport = useTransport()
const found = ref<Schemas['ReadingsOut'] | null>(null)
const trouble = ref('')
const reading = ref(false)

const clock = computed(() => session.data?.clock ?? [])
const span = computed(() => selection.range ?? { start: 0, end: session.data?.length ?? 0 })
const said = computed(() => `${session.position(span.value.start)} to ${session.position(span.value.end)}`)
async function read(): Promise<void> {
  const id = session.data?.id
  if (id === undefined) return
  reading.value = true
  const body = {
    start: secondsAt(clock.value, span.value.start),
    end: secondsAt(clock.value, span.value.end),
    request: listening.coming ? preview.request : null,
    links: preview.links,
    each: true,
  }
  try {
    found.value = await asked(api.POST('/api/sessions/{id}/readings', { params: { path: { id } }, body }))
    trouble.value = ''
  } catch (error) {
    trouble.value = sentence(refusal(error))
  }
  reading.value = false
}
onMounted(() => void read())
watch([span, () => session.data?.revision, () => preview.change], () => void read())

const rows = computed(() => {
  const applied = new Map(found.value?.applied.map((row) => [row.track, row]))
  return (found.value?.now ?? []).map((now) => ({ now, applied: applied.get(now.track) }))
})
function figure(value: number | null | undefined): string {
  return value == null ? '−∞' : value.toFixed(1).replace('-', '−')
}
const beatOf = (seconds: number) => beatAfter(clock.value, seconds)
function differs(row: { now: Row; applied?: Row | undefined }, key: 'peak' | 'mean' | 'loudness'): boolean {
  return !!row.applied && figure(row.applied[key]) !== figure(row.now[key])
}
function go(seconds: number): void {
  const beat = beatOf(seconds)
  const wide = bench.view.end - bench.view.start
  if (beat < bench.view.start || beat > bench.view.end) bench.show({ start: beat - wide / 4, end: beat + (wide * 3) / 4 })
  transport.goTo(beat)
}
</script>

<template>
  <section class="readings" aria-label="Readings of the range" @keydown.escape.stop="emit('close')">
    <header>
      <b>Readings, {{ said }}</b>
      <span v-if="reading" class="soft" role="status">listening to it…</span>
      <span v-else-if="found?.louder != null">
        If applied it is {{ figure(Math.abs(found.louder)) }} dB {{ found.louder < 0 ? 'quieter' : 'louder' }}
      </span>
      <button class="link soft" type="button" @click="emit('close')">close</button>
    </header>
    <p v-if="trouble" class="warn" role="alert">{{ trouble }}</p>
    <table v-else-if="rows.length">
      <thead>
        <tr>
          <th>Track</th>
          <th>Peak, dB</th>
          <th>Mean, dB</th>
          <th>Loudness, LUFS</th>
          <th>Loudest at</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.now.track ?? ''" :class="{ master: !row.now.track }">
          <th>{{ row.now.track ? row.now.name : 'All of it' }}</th>
          <td v-for="key in ['peak', 'mean', 'loudness'] as const" :key="key" class="number">
            {{ figure(row.now[key]) }}
            <b v-if="differs(row, key)" class="fresh">{{ figure(row.applied![key]) }}</b>
          </td>
          <td>
            <button v-if="row.now.at != null" class="link number" type="button" @click="go(row.now.at)">
              {{ session.position(beatOf(row.now.at)) }}
            </button>
            <button v-if="row.now.clips != null" class="link warn" type="button" @click="go(row.now.clips)">
              over full scale at {{ session.position(beatOf(row.now.clips)) }}
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.readings {
  position: absolute;
  top: 44px;
  right: 12px;
  z-index: 30;
  max-height: 70vh;
  overflow: auto;
  padding: 10px 14px 12px;
  border: 1px solid var(--ink);
  border-radius: 3px;
  background: var(--sheet);
}
header {
  display: flex;
  gap: 16px;
  align-items: baseline;
  margin-bottom: 6px;
}
header button {
  margin-left: auto;
}
table {
  border-collapse: collapse;
  font-size: 13px;
}
th,
td {
  padding: 2px 14px 2px 0;
  text-align: left;
  font-weight: 400;
  border-top: 1px solid var(--quiet-line);
}
thead th {
  border: 0;
  color: var(--soft);
}
.master th,
.master td {
  font-weight: 700;
}
.fresh,
.warn {
  color: var(--fresh);
}
</style>
