<script setup lang="ts">
// The ledger: every lane as a line, found, filtered and pinned onto the bench. Draws only the lines on view.
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { LaneOut, ParameterOut, TrackOut } from '../api/client'
import { useKeys } from '../state/keys'
import { useOneStop } from '../state/oneStop'
import { useBench } from '../state/bench'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { useWorksheet } from '../state/worksheet'
import { useSets } from '../state/sets'
import Chooser from '../parts/Chooser.vue'
import ChannelCard from './ChannelCard.vue'
import { counted } from '../lib/words'
import { useTransport } from '../state/desk/transport'
import { useListening } from '../state/listening'
import TrackListen from '../parts/TrackListen.vue'
import LedgerLine from './LedgerLine.vue'
import Tray from './Tray.vue'
import { grouped, GROUPINGS, SORTINGS, withEveryTrack, type Group, type Grouping, type Sorting } from '../lib/order'

/** Which lanes are listed: those with moves, all, the pinned ones, or those of which something is found. */
type Filter = string
type Row = { key: string; group: Group } | { key: string; lane: LaneOut } | { key: string; bare: ParameterOut }

const ROW = 22
/** From this width on, lines say more. */
const WIDE = 380
const session = useSession()
const worksheet = useWorksheet()
const selection = useSelection()
const bench = useBench()
const sets = useSets()
const listening = useListening()
const transport = useTransport()
const words = ref('')
const filter = ref<Filter>('moves')
const grouping = ref<Grouping>('track')
const sorting = ref<Sorting>('order')
/** The track whose channel card is open, and how far down its name stands. */
const card = ref<{ track: string; y: number } | null>(null)
const naming = ref(false)
const setName = ref<HTMLInputElement | null>(null)
const GROUPED = Object.entries(GROUPINGS).map(([value, label]) => ({ value, label }))
const SORTED = Object.entries(SORTINGS).map(([value, label]) => ({ value, label }))
const KEEP = '+'
const RULE = '?'
const setOptions = computed(() => [
  ...bench.sets.map(({ name }) => ({ value: `=${name}`, label: name })),
  ...Object.keys(sets.rules).map((called) => ({ value: `${RULE}${called}`, label: called })),
  { value: KEEP, label: 'keep what is pinned as…' },
])
async function useSet(value: string): Promise<void> {
  if (value.startsWith(RULE)) return sets.recallRule(value.slice(1))
  if (value !== KEEP) return sets.recall(value.slice(1))
  naming.value = true
  await nextTick()
  window.setTimeout(() => setName.value?.focus())
}
function keepSet(): void {
  sets.keep()
  naming.value = false
}
/** An empty strip of a parameter without a lane, to draw on. */
function begin(parameter: string, event: MouseEvent): void {
  bench.focusing = event.detail === 0
  bench.goTo(parameter)
}
function openCard(track: string, event: MouseEvent): void {
  const { bottom } = (event.currentTarget as HTMLElement).getBoundingClientRect()
  card.value = card.value?.track === track ? null : { track, y: bottom }
}
const list = ref<HTMLElement | null>(null)
const filters = ref<HTMLElement | null>(null)
const tools = ref<HTMLElement | null>(null)
useOneStop(filters)
useOneStop(tools, 'button.closed', ['ArrowLeft', 'ArrowRight'])
const find = ref<HTMLInputElement | null>(null)
const top = ref(0)
const tall = ref(600)

const passes = computed<Record<Filter, (lane: LaneOut) => boolean>>(() => ({
  moves: (lane) => lane.moves,
  all: () => true,
  ...Object.fromEntries(kinds.value.map(({ name }) => [name, (lane: LaneOut) => lane.findings.some((f) => f.kind === name)])),
  pinned: (lane) => bench.pins.includes(lane.parameter),
  ...(linkedLanes.value.size ? { linked: (lane: LaneOut) => linkedLanes.value.has(lane.id) } : {}),
}))
/** Lanes with places of phrases, and the names of those phrases. */
const linkedLanes = computed(() => {
  const all = new Map<string, string>()
  for (const one of session.data?.linked.placements ?? []) all.set(one.lane, `${all.get(one.lane) ?? ''} ${one.name}`)
  return all
})
const kinds = computed(() => session.data?.kinds ?? [])
const names = computed<Record<Filter, string>>(() => ({
  moves: 'with moves',
  all: 'all',
  ...Object.fromEntries(kinds.value.map((kind) => [kind.name, kind.called])),
  pinned: 'pinned',
  ...(linkedLanes.value.size ? { linked: 'linked' } : {}),
}))

/** Everything a track could automate and does not yet, where that is asked for: to begin with. */
const bare = computed(() => {
  if (filter.value !== 'all' || grouping.value !== 'track') return new Map<string, ParameterOut[]>()
  const rows = (session.data?.tracks ?? []).map((track): [string, ParameterOut[]] => {
    const fits = (p: ParameterOut) => {
      const hay = [track.name, p.name, p.family, p.device, p.target, p.unit].join(' ').toLowerCase()
      return wanted.value.every((word) => hay.includes(word))
    }
    return [track.id, track.parameters.filter((p) => !session.lanesOf.has(p.id) && fits(p))]
  })
  return new Map(rows.filter(([, some]) => some.length))
})

/** What a lane can be found by: its owner, parameter, family, device, region, unit and the phrases placed on it. */
const haystacks = computed(() => {
  const all = new Map<string, string>()
  for (const lane of session.data?.lanes ?? []) {
    const { track, parameter } = session.parameters.get(lane.parameter)!
    const said = [
      track.name,
      parameter.name,
      parameter.family,
      parameter.device,
      parameter.target,
      parameter.unit,
      lane.home_name,
      linkedLanes.value.get(lane.id),
    ]
    all.set(lane.id, said.join(' ').toLowerCase())
  }
  return all
})

const wanted = computed(() => words.value.toLowerCase().split(/\s+/).filter(Boolean))
const found = computed(() =>
  (session.data?.lanes ?? []).filter((lane) => {
    const hay = haystacks.value.get(lane.id)!
    return wanted.value.every((word) => hay.includes(word))
  }),
)
const counts = computed(() => {
  const entries = Object.entries(passes.value).map(([name, passing]) => [name, found.value.filter(passing).length])
  return Object.fromEntries(entries) as Record<Filter, number>
})

const listed = computed(() => found.value.filter(passes.value[filter.value] ?? (() => true)))
const rows = computed<Row[]>(() => {
  const groups = grouped(listed.value, session.parameters, grouping.value, sorting.value)
  const everything = filter.value === 'all' && grouping.value === 'track'
  const all = everything && sorting.value === 'order' ? withEveryTrack(groups, session.data?.tracks ?? []) : groups
  const shownGroups = words.value.trim() ? all.filter((g) => g.lanes.length || bare.value.has(g.key)) : all
  return shownGroups.flatMap((group): Row[] => [
    { key: `group:${group.key}`, group },
    ...group.lanes.map((lane) => ({ key: lane.id, lane })),
    ...(bare.value.get(group.key) ?? []).map((p) => ({ key: `bare:${p.id}`, bare: p })),
  ])
})
// A session in which nothing moves yet shows its tracks, so that there is something to begin with.
watch(
  () => session.data?.id,
  () => (filter.value = session.data?.lanes.some((x) => x.moves) ? 'moves' : 'all'),
  { immediate: true },
)

/** Show all lanes of a group that are in use, below what is pinned already. */
function showGroup(group: Group): void {
  bench.pins = [...new Set([...bench.pins, ...group.lanes.filter((x) => x.moves).map((x) => x.parameter)])]
}
function showListed(): void {
  bench.pins = [...new Set(listed.value.filter((x) => x.moves).map((x) => x.parameter))]
}
const shown = computed(() => {
  const first = Math.max(Math.floor(top.value / ROW) - 6, 0)
  return rows.value.slice(first, first + Math.ceil(tall.value / ROW) + 12).map((row, i) => ({ row, y: (first + i) * ROW }))
})

function about(track: TrackOut): string {
  if (track.kind === 'group') return `group fader, ${counted(track.members.length, 'member')}`
  const above = (session.data?.tracks ?? []).filter((t) => t.member_ids.includes(track.id)).map((t) => t.name)
  const parts = track.kind === 'bus' ? ['bus'] : track.regions.length ? [counted(track.regions.length, 'region')] : []
  return [...parts, ...(above.length ? [`in ${above.join(', ')}`] : [])].join(', ')
}

function choose(lane: LaneOut, byKey = false): void {
  bench.focusing = byKey
  bench.goTo(lane.parameter)
  selection.lanes = [lane.id]
}

/** The line that can be come to by Tab: the one that was walked to last, else the chosen lane's, else the first in sight. */
const walkedTo = ref('')
const stop = computed(() => {
  const keys = shown.value.map(({ row }) => row.key)
  const inSight = shown.value.find(({ y }) => y >= top.value)?.row.key
  return [walkedTo.value, selection.lanes[0] ?? ''].find((key) => keys.includes(key)) ?? inSight ?? keys[0]
})
/** Up and down walk the lines, the one walked to is scrolled into view; left and right go through what a line has. */
async function walk(event: KeyboardEvent): Promise<void> {
  const way = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (!way || !list.value) return walkAlong(event)
  event.preventDefault()
  event.stopPropagation()
  const line = document.activeElement?.closest<HTMLElement>('[data-row]')
  const at = line ? rows.value.findIndex((row) => row.key === line.dataset['row']) : -1
  const first = rows.value.findIndex((row) => !('group' in row)) // from the words that were typed to what they found
  const i = at < 0 ? first : Math.min(Math.max(at + way, 0), rows.value.length - 1)
  const next = rows.value[i]
  if (!next) return
  const y = i * ROW
  if (y < list.value.scrollTop) list.value.scrollTop = y
  if (y + ROW > list.value.scrollTop + list.value.clientHeight) list.value.scrollTop = y + ROW - list.value.clientHeight
  top.value = list.value.scrollTop
  walkedTo.value = next.key
  await nextTick()
  const now = list.value.querySelector<HTMLElement>(`[data-row="${CSS.escape(next.key)}"]`)
  now?.querySelector<HTMLElement>('[data-stop]')?.focus()
}
function walkAlong(event: KeyboardEvent): void {
  const way = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
  const line = (event.target as HTMLElement).closest('[data-row]')
  if (!way || !line) return
  event.preventDefault()
  event.stopPropagation()
  const all = [...line.querySelectorAll<HTMLElement>('button')]
  all[(all.indexOf(event.target as HTMLElement) + way + all.length) % all.length]?.focus()
}

useKeys({
  find: async () => {
    if (!bench.ledger) bench.toggleLedger()
    await nextTick()
    find.value?.focus()
  },
})

let sizes: ResizeObserver | null = null
onMounted(() => {
  sizes = new ResizeObserver(() => (tall.value = list.value?.clientHeight ?? 600))
  if (list.value) sizes.observe(list.value)
})
onBeforeUnmount(() => sizes?.disconnect())
</script>

<template>
  <nav class="ledger" aria-label="Ledger">
    <div class="find">
      <input
        ref="find"
        v-model="words"
        type="search"
        placeholder="Find a lane or a track"
        aria-label="Find a lane or a track"
        @keydown.escape="words = ''"
        @keydown.down="walk"
      />
      <kbd aria-hidden="true">/</kbd>
    </div>
    <div ref="filters" class="filters" role="group" aria-label="Which lanes">
      <button
        v-for="(name, key) in names"
        :key="key"
        :aria-pressed="filter === key"
        :class="{ on: filter === key }"
        @click="filter = key"
      >
        {{ name }} {{ counts[key] }}
      </button>
    </div>
    <div ref="tools" class="tools" role="group" aria-label="How lanes are listed">
      <Chooser v-model="grouping" label="Group lanes" :options="GROUPED" />
      <Chooser v-model="sorting" label="Sort lanes" :options="SORTED" />
      <Chooser model-value="" label="Sets of pinned lanes" none="sets" :options="setOptions" @update:model-value="useSet" />
    </div>
    <div class="tools">
      <button class="link" title="Pin every lane listed here that moves" @click="showListed">show all</button>
      <button class="link" @click="bench.pins = []">hide all</button>
    </div>
    <div
      v-if="listening.some || listening.onlyWork || transport.running"
      class="tools heard"
      role="group"
      aria-label="What is listened to"
    >
      <span v-if="listening.some" role="status">listening to {{ listening.some.count }} of {{ listening.some.of }}</span>
      <button v-if="listening.some || listening.onlyWork" class="link" type="button" @click="listening.all()">all</button>
      <button
        class="link soft"
        type="button"
        :aria-pressed="listening.onlyWork"
        :class="{ on: listening.onlyWork }"
        title="Hear alone what the worksheet is about, and follow it"
        @click="listening.onlyWork = !listening.onlyWork"
      >
        only what I work on
      </button>
    </div>
    <div v-if="naming" class="tools">
      <input
        ref="setName"
        v-model="sets.name"
        placeholder="name this set"
        aria-label="Name for the pinned lanes"
        maxlength="60"
        @keydown.enter="keepSet"
        @keydown.escape="naming = false"
      />
      <button class="link" :disabled="!sets.name.trim()" @click="keepSet">keep</button>
    </div>
    <div ref="list" class="list" @scroll="top = list!.scrollTop" @keydown="walk">
      <div class="all" :style="{ height: `${rows.length * ROW + 8}px` }">
        <div
          v-for="{ row, y } in shown"
          :key="row.key"
          class="row"
          :data-row="row.key"
          :style="{ transform: `translateY(${y}px)` }"
        >
          <div v-if="'group' in row" class="owner">
            <button
              v-if="row.group.track"
              class="plain-button"
              data-stop
              :tabindex="stop === row.key ? 0 : -1"
              title="Open its channel card"
              @click="openCard(row.group.track.id, $event)"
            >
              <b>{{ row.group.title }}</b>
            </button>
            <b v-else>{{ row.group.title }}</b>
            <span class="soft about">{{ row.group.track ? about(row.group.track) : `${row.group.lanes.length} lanes` }}</span>
            <button
              v-if="row.group.lanes.length"
              class="link soft show"
              tabindex="-1"
              :title="`Pin every lane of ${row.group.title} that moves`"
              @click="showGroup(row.group)"
            >
              show all<span class="out-of-sight"> of {{ row.group.title }}</span>
            </button>
            <TrackListen v-if="row.group.track" :track="row.group.track" />
            <button
              v-if="row.group.track"
              class="plain-button mode"
              tabindex="-1"
              :class="{ alarm: !row.group.track.reads }"
              :title="`Set the mode of ${row.group.track.name}`"
              @click="worksheet.setMode(row.group.track.id, row.group.track.reads)"
            >
              {{ row.group.track.reads ? (row.group.track.mode === 'read' ? 'reads' : row.group.track.mode) : 'not reading' }}
            </button>
          </div>
          <div v-else-if="'bare' in row" class="bare">
            <button
              class="plain-button"
              data-stop
              :tabindex="stop === row.key ? 0 : -1"
              :title="`${session.parameterName(row.bare.id)} has no lane yet: open a strip to draw it on`"
              @click="begin(row.bare.id, $event)"
            >
              {{ row.bare.name }} <small class="soft">no lane yet</small>
            </button>
          </div>
          <LedgerLine
            v-else
            :stop="stop === row.key"
            :lane="row.lane"
            :owner="grouping !== 'track'"
            :wide="bench.ledger >= WIDE"
            @choose="(byKey) => choose(row.lane, byKey)"
          />
        </div>
      </div>
      <p v-if="!rows.length && session.data" class="none soft">
        {{ words ? 'No lane is found by these words.' : 'No lanes here.' }}
        <button v-if="words || filter !== 'all'" class="link" @click="((words = ''), (filter = 'all'))">Show all lanes</button>
      </p>
    </div>
    <ChannelCard v-if="card" :key="card.track" :track-id="card.track" :beside="card.y" @close="card = null" />
    <Tray />
  </nav>
</template>

<style scoped>
.heard .on {
  color: var(--ink);
  font-weight: 700;
}
.ledger {
  overflow-y: auto;
  display: flex;
  flex-direction: column;
  background: var(--paper);
}
.find {
  position: relative;
  margin: 10px 12px 7px;
}
.find input {
  width: 100%;
  height: 29px;
  padding: 0 24px 0 8px;
  font: inherit;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
}
.find kbd {
  position: absolute;
  right: 9px;
  top: 6px;
  font: 12px var(--mono);
  color: var(--soft);
}
.filters {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  padding: 0 12px 8px;
}
.filters button {
  font-size: 12px;
  padding: 1px 7px;
  border: 1px solid var(--line);
  border-radius: 10px;
  background: var(--sheet);
  cursor: pointer;
}
.filters button.on {
  border-color: var(--ink);
  font-weight: 600;
  box-shadow: inset 0 0 0 0.5px var(--ink);
}
.tools {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 0 12px 6px;
  font-size: 12px;
}
.tools .chooser {
  flex: 1;
}
.tools input {
  font: 12px var(--sans);
  height: 21px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
  min-width: 0;
  flex: 1;
}
.tools button:disabled {
  color: var(--soft);
  cursor: default;
}
.owner .about {
  overflow: hidden;
  text-overflow: ellipsis;
}
.owner .show {
  font-size: 12px;
  visibility: hidden;
}
.owner:hover :deep(.listen button),
.owner:focus-within :deep(.listen button) {
  display: inline;
}
.owner:hover .about,
.owner:focus-within .about {
  display: none;
}
.owner:hover .show,
.owner .show:focus-visible {
  visibility: visible;
}
.list {
  flex: 1 0 112px;
  overflow-y: auto;
  position: relative;
  scrollbar-width: thin;
  border-top: 1px solid var(--line);
}
.all {
  position: relative;
}
.row {
  position: absolute;
  left: 0;
  right: 0;
  top: 2px;
  height: 22px;
}
.owner {
  display: flex;
  gap: 6px;
  align-items: baseline;
  padding: 5px 12px 0;
  white-space: nowrap;
}
.owner b {
  display: block;
  max-width: 120px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.owner span {
  font-size: 12px;
}
.owner .mode {
  margin-left: auto;
  color: var(--soft);
  font-weight: 600;
}
.owner .mode.alarm {
  color: var(--fresh);
  font-weight: 700;
}
.bare {
  padding: 2px 12px 0 31px;
  white-space: nowrap;
}
.none {
  padding: 14px 12px;
}
</style>
