<script setup lang="ts">
// The finder: a few letters of any name, and one goes there: a lane, a track, a region, a marker, a bar, a page; or starts a verb.
import { computed, nextTick, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, asked } from '../api/client'
import { VERBS, type VerbId } from '../lib/table'
import { useBench } from '../state/bench'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { useWorksheet } from '../state/worksheet'

interface Found {
  key: string
  what: string
  name: string
  go: () => unknown
}
const MOST = 12
const shown = defineModel<boolean>({ required: true })
const [session, bench, selection, worksheet] = [useSession(), useBench(), useSelection(), useWorksheet()]
const router = useRouter()
const words = ref('')
const at = ref(0)
const input = ref<HTMLInputElement | null>(null)
let before: HTMLElement | null = null

const PAGES = { bench: 'Bench', compare: 'Compare', log: 'Log', book: 'Phrases', takeout: 'Take out' } as const

async function onBench(go: () => void): Promise<void> {
  await router.push({ name: 'bench' })
  go()
}
function toLane(id: string, parameter: string): void {
  toParameter(parameter)
  selection.lanes = [id]
}
/** Its strip, also an empty one to draw on; the keys go on from it. */
function toParameter(parameter: string): void {
  bench.focusing = true
  bench.goTo(parameter)
}
function toTrack(id: string): void {
  const lanes = (session.data?.lanes ?? []).filter((lane) => lane.track === id)
  for (const lane of lanes.filter((x) => x.moves).slice(0, 12)) bench.pin(lane.parameter)
  const first = lanes.find((x) => x.moves) ?? lanes[0]
  if (first) toLane(first.id, first.parameter)
}
/** Into sight and chosen, with its span as the range: whatever comes next is about it. */
function toRegion(id: string): void {
  const { track, region } = session.regions.get(id)!
  const span = { start: region.start, end: region.start + region.length }
  selection.regions = [id]
  selection.range = span
  const lanes = (session.data?.lanes ?? []).filter((lane) => lane.track === track.id)
  const first = lanes.find((x) => x.home === id) ?? lanes.find((x) => x.moves) ?? lanes[0]
  if (first) toLane(first.id, first.parameter)
  bench.showAround(span)
}
/** What a note is on. */
function toNoted(about: string, of: string): void {
  if (about === 'track') toTrack(of)
  else if (about === 'region') toRegion(of)
  else if (about === 'parameter') toParameter(of)
  else toLane(of, session.lanes.get(of)!.parameter)
}
function toVerb(verb: VerbId): void {
  worksheet.verb = verb
}
/** A position is read by the server, as everywhere. */
async function toPosition(text: string): Promise<void> {
  const body = { kind: 'position' as const, text, start: 0, parameter: null }
  const call = { params: { path: { id: session.data!.id } }, body }
  await session.guarded(async () => {
    const { number } = await asked(api.POST('/api/sessions/{id}/typed', call))
    toBeat(number)
  })
}
function toBeat(beat: number): void {
  bench.cursor = beat
  const wide = bench.view.end - bench.view.start
  bench.show({ start: beat - wide / 8, end: beat + (wide * 7) / 8 })
}
function toMarker(id: string, beat: number): void {
  selection.markers = [id]
  toBeat(beat)
}

const everything = computed<Found[]>(() => [
  ...VERBS.map((v) => ({ key: `verb ${v.id}`, what: 'verb', name: v.name, go: () => onBench(() => toVerb(v.id)) })),
  ...(session.data?.lanes ?? []).map((x) => ({
    key: `lane ${x.id}`,
    what: 'lane',
    name: session.laneName(x.id),
    go: () => onBench(() => toLane(x.id, x.parameter)),
  })),
  ...[...session.parameters].flatMap(([id, { parameter }]) =>
    session.lanesOf.has(id)
      ? []
      : [
          {
            key: `parameter ${id}`,
            what: `${parameter.family}, no lane yet`,
            name: session.parameterName(id),
            go: () => onBench(() => toParameter(id)),
          },
        ],
  ),
  ...(session.data?.tracks ?? []).map((t) => ({
    key: `track ${t.id}`,
    what: 'track',
    name: t.name,
    go: () => onBench(() => toTrack(t.id)),
  })),
  ...[...session.regions].map(([id, { track, region }]) => ({
    key: `region ${id}`,
    what: 'region',
    name: `${region.name} on ${track.name}`,
    go: () => onBench(() => toRegion(id)),
  })),
  ...(session.data?.markers ?? []).map((m) => ({
    key: `marker ${m.id}`,
    what: m.cue ? 'cue' : 'marker',
    name: m.called,
    go: () => onBench(() => toMarker(m.id, m.at)),
  })),
  ...(session.data?.notes ?? []).map((n) => ({
    key: `note ${n.about} ${n.of}`,
    what: `note on ${session.calledOf(n.about, n.of)}`,
    name: n.text,
    go: () => onBench(() => toNoted(n.about, n.of)),
  })),
  ...Object.entries(PAGES).map(([name, said]) => ({
    key: `page ${name}`,
    what: 'page',
    name: said,
    go: () => router.push({ name }),
  })),
])
/** Names that begin with what was typed come first, then those of which a word does, then the rest. */
function nearness(name: string, typed: string): number {
  const said = name.toLowerCase()
  return said.startsWith(typed) ? 0 : said.includes(` ${typed}`) ? 1 : 2
}
const found = computed<Found[]>(() => {
  const typed = words.value.trim().toLowerCase()
  if (!typed) return everything.value.slice(0, MOST)
  const parts = typed.split(/\s+/)
  const some = everything.value.filter(({ name, what }) => {
    const hay = `${what} ${name}`.toLowerCase()
    return parts.every((part) => hay.includes(part))
  })
  some.sort((a, b) => nearness(a.name, typed) - nearness(b.name, typed))
  const position = /^(bar )?(\d+(\.\d+)*)$/.exec(typed)?.[2]
  const bar = position
    ? [{ key: 'bar', what: 'bar', name: `Bar ${position}`, go: () => onBench(() => void toPosition(position)) }]
    : []
  return [...bar, ...some].slice(0, MOST)
})
watch(words, () => (at.value = 0))
watch(
  shown,
  async (now) => {
    if (!now) return
    before = document.activeElement as HTMLElement | null
    words.value = ''
    at.value = 0
    await nextTick()
    input.value?.focus()
  },
  { immediate: true },
)

function close(): void {
  shown.value = false
  before?.focus()
}
function take(one: Found | undefined): void {
  if (!one) return
  close()
  void one.go()
}
function key(event: KeyboardEvent): void {
  const way = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (way) at.value = (at.value + way + found.value.length) % Math.max(found.value.length, 1)
  else if (event.key === 'Enter') take(found.value[at.value])
  else if (event.key === 'Escape' || event.key === 'Tab') close()
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <div v-if="shown" class="around" @pointerdown.self="close">
    <section class="finder" role="dialog" aria-label="Go to anything">
      <input
        ref="input"
        v-model="words"
        type="text"
        role="combobox"
        autocomplete="off"
        spellcheck="false"
        placeholder="a verb, a lane, a track, a region, a marker, a bar"
        aria-label="Go to"
        aria-expanded="true"
        aria-controls="found"
        :aria-activedescendant="found.length ? `found-${at}` : undefined"
        @keydown="key"
      />
      <ul id="found" role="listbox" aria-label="Found">
        <li
          v-for="(one, i) in found"
          :id="`found-${i}`"
          :key="one.key"
          role="option"
          :aria-selected="i === at"
          :class="{ on: i === at }"
          @pointermove="at = i"
          @click="take(one)"
        >
          <span>{{ one.name }}</span> <span class="soft">{{ one.what }}</span>
        </li>
      </ul>
      <p v-if="!found.length" class="soft none">Nothing here has these words.</p>
    </section>
  </div>
</template>

<style scoped>
.around {
  position: fixed;
  inset: 0;
  z-index: 30;
}
.finder {
  width: min(520px, 92vw);
  margin: 64px auto 0;
  border: 1px solid var(--ink);
  border-radius: 3px;
  background: var(--sheet);
  box-shadow: var(--el-box-shadow-light);
}
input {
  width: 100%;
  height: 40px;
  padding: 0 14px;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: transparent;
  color: var(--ink);
  font: 16px var(--sans);
  outline: none;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  padding: 4px 14px;
  cursor: pointer;
}
li span:first-child {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
li.on {
  background: var(--sand-deep);
}
.none {
  padding: 8px 14px;
}
</style>
