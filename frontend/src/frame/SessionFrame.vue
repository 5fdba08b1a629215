<script setup lang="ts">
// The frame of an open session: its name, the places, undo and redo, and what went wrong.
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { helpAt } from '../lib/help'
import { clockText, positionText } from '../lib/said'
import { inField, useEarlyKeys, useKeys } from '../state/keys'
import { later } from './later'
import { usePick } from '../state/pick'
import { useTransport } from '../state/desk/transport'
import ListenBar from './ListenBar.vue'
import { useBench } from '../state/bench'
import { useSelection } from '../state/selection'
import { useNotices } from '../state/notices'
import { useClipboard } from '../state/clipboard'
import { useSaying } from '../state/saying'
import { useSession } from '../state/session'
import { changePapers, papers } from '../state/theme'
import { useTidying } from '../state/tidying'
import { useWorksheet } from '../state/worksheet'
import { figure, isolated } from '../lib/words'

const Finder = later('Finder')
const KeyList = later('KeyList')
const ReadingsTable = later('ReadingsTable')
const route = useRoute()
const router = useRouter()
const session = useSession()
const selection = useSelection()
const notices = useNotices()
const bench = useBench()
const transport = useTransport()
const clipboard = useClipboard()
const saying = useSaying()
const tidying = useTidying()
const worksheet = useWorksheet()
const keysShown = ref(false)
const naming = ref(false)
const name = ref('')

const data = computed(() => session.data)
watch(
  () => Number(route.params['id']),
  (id) => id && void session.open(id),
  { immediate: true },
)
watch(
  () => data.value?.name,
  (said) => (document.title = said ? `${said} · Velmot` : 'Velmot'),
)
onBeforeUnmount(() => session.leave())

const past = computed(() => data.value?.past ?? null)
const at = computed(() => bench.playhead ?? bench.hover ?? bench.cursor)
const position = computed(() => (data.value ? positionText(at.value, data.value.bars) : ''))
const clock = computed(() => (data.value ? clockText(at.value, data.value.clock) : ''))

function startNaming(): void {
  name.value = data.value?.name ?? ''
  naming.value = true
}
async function finishNaming(): Promise<void> {
  if (!naming.value) return
  naming.value = false
  await session.rename(name.value)
}

const undoButton = ref<HTMLButtonElement | null>(null)
const redoButton = ref<HTMLButtonElement | null>(null)
/** A step back or forth, said to who listens. */
async function walk(way: 'undo' | 'redo'): Promise<void> {
  const title = data.value?.[way]
  await session.walk(way)
  if (title) saying.say(`${way === 'undo' ? 'Undone' : 'Done again'}: ${title}`)
}
/** By its button: where that can be pressed no more, the keys go on from the other one. */
async function press(way: 'undo' | 'redo'): Promise<void> {
  await walk(way)
  await nextTick()
  if (data.value && !data.value[way]) (way === 'undo' ? redoButton : undoButton).value?.focus()
}

/** What is found, on its sheet. */
async function showFindings(): Promise<void> {
  if (route.name !== 'bench') await router.push({ name: 'bench' })
  worksheet.verb = 'tidy'
  worksheet.folded = false
}

/** Whether what is cut, copied or pasted is the bench's: it is on view, and no text of the page is chosen. */
const isBenchs = () => route.name === 'bench' && !window.getSelection()?.toString()

/** The keys of every program, and the list of Velmot's own. */
const COMMANDS: Record<string, (event: KeyboardEvent) => unknown> = {
  z: (event) => walk(event.shiftKey ? 'redo' : 'undo'),
  y: () => walk('redo'),
}
const BENCH_COMMANDS: typeof COMMANDS = {
  c: () => clipboard.copy(),
  x: () => clipboard.cut(),
  a: () => pickAll(),
}
function key(event: KeyboardEvent): void {
  const commands = isBenchs() ? { ...COMMANDS, ...BENCH_COMMANDS } : COMMANDS
  const command = event.ctrlKey || event.metaKey ? commands[event.key.toLowerCase()] : undefined
  if (!command || inField(event)) return
  event.preventDefault()
  void command(event)
}
const finderShown = ref(false)
const readingsShown = ref(false)
useKeys({ keys: () => (keysShown.value = true), finder: () => (finderShown.value = !!data.value) })
const pick = usePick()
/** Select all: every point of the chosen lanes, or of all lanes on the bench. */
async function pickAll(): Promise<void> {
  if (!selection.lanes.length)
    selection.lanes = bench.strips.flatMap((p) => (session.lanesOf.get(p) ?? []).map((lane) => lane.id))
  await pick('all')
}
function paste(event: ClipboardEvent): void {
  if ((event.target as HTMLElement).closest('input, textarea') || !data.value || route.name !== 'bench') return
  event.preventDefault()
  void clipboard.paste(event.clipboardData?.getData('text/plain') ?? '', null)
}
onMounted(() => {
  window.addEventListener('keydown', key)
  window.addEventListener('paste', paste)
})
useEarlyKeys(isBenchs) // after all who listen here
onBeforeUnmount(() => {
  window.removeEventListener('keydown', key)
  window.removeEventListener('paste', paste)
})
</script>

<template>
  <div class="frame">
    <header class="bar">
      <RouterLink class="brand" to="/" title="All sessions">Velmot<i>.</i></RouterLink>
      <template v-if="data">
        <form v-if="naming" @submit.prevent="finishNaming">
          <input
            v-model="name"
            class="naming"
            aria-label="The session’s name"
            maxlength="300"
            autofocus
            @blur="finishNaming"
            @keydown.escape="naming = false"
          />
        </form>
        <b v-else-if="past">{{ data.name }}</b>
        <button v-else class="plain-button title" title="Rename" @click="startNaming">
          <b>{{ data.name }}</b>
        </button>
        <span class="soft rev">revision {{ data.revision }}</span>
        <nav aria-label="Places">
          <RouterLink :to="{ name: 'bench' }">Bench</RouterLink>
          <RouterLink :to="{ name: 'compare' }">Compare</RouterLink>
          <RouterLink v-if="!past" :to="{ name: 'log' }">Log</RouterLink>
          <RouterLink :to="{ name: 'book' }">Phrases</RouterLink>
          <button class="plain-button findings" title="What is found in the session, on the worksheet" @click="showFindings">
            Findings <span v-if="tidying.answer" class="number count">{{ figure(tidying.answer.count) }}</span>
          </button>
          <button class="plain-button" @click="keysShown = true">Keys</button>
          <a v-if="helpAt" class="help" :href="`${helpAt}index.html`" target="velmot-help">Help</a>
          <button
            class="plain-button"
            title="Change the papers: as the system wishes, unless the other ones are chosen"
            @click="changePapers"
          >
            {{ papers === 'dark' ? 'Light' : 'Dark' }}
          </button>
        </nav>
        <button
          v-if="route.name === 'bench'"
          class="plain-button play"
          title="From the cursor, or stop (Space)"
          @click="transport.toggle()"
        >
          {{ transport.running || transport.preparing ? 'Stop' : 'Play' }}
        </button>
        <span class="where"
          ><b class="number">{{ position }}</b> <span class="number soft">{{ clock }}</span></span
        >
        <ListenBar v-if="route.name === 'bench'" @readings="readingsShown = !readingsShown" />
        <button
          class="out"
          :disabled="!data.undo"
          :title="data.undo ? isolated(`Undo: ${data.undo}`) : 'Nothing to undo'"
          ref="undoButton"
          @click="press('undo')"
        >
          Undo
        </button>
        <button
          class="out"
          :disabled="!data.redo"
          :title="data.redo ? isolated(`Redo: ${data.redo}`) : 'Nothing to redo'"
          ref="redoButton"
          @click="press('redo')"
        >
          Redo
        </button>
        <RouterLink class="out" :to="{ name: 'takeout' }">Take out…</RouterLink>
      </template>
    </header>
    <p v-if="past" class="past">
      {{ data?.name }} as it was at {{ past.mark ? `“${past.mark}”` : `revision ${past.revision}` }}: to look at and listen to.
      <RouterLink class="link" :to="{ name: 'log', params: { id: past.of } }">Back to the session</RouterLink>
    </p>
    <p class="out-of-sight" role="status" aria-label="What changed">{{ isolated(saying.text) }}</p>
    <div class="notices" role="status">
      <p v-if="session.gone" class="notice">
        Velmot’s server does not answer. Everything applied so far is kept; the work goes on here as soon as it is back.
      </p>
      <p v-else-if="session.newer !== null" class="notice">
        This session has changed in another window and stands at revision {{ session.newer }} now.
        <button class="link" @click="session.refresh()">Show the newest</button>
      </p>
      <p v-for="notice in notices.queue" :key="notice.id" class="notice">
        {{ isolated(notice.text) }}
        <button v-if="notice.offer" class="link" @click="(notice.offer.go(), notices.read(notice.id))">
          {{ notice.offer.words }}
        </button>
        <button class="link" @click="notices.read(notice.id)">{{ notice.offer ? 'let it be' : 'Understood' }}</button>
      </p>
    </div>
    <div v-if="session.missing" class="missing">
      <h1>This session is not here</h1>
      <p>{{ session.missing }}</p>
      <RouterLink to="/">All sessions</RouterLink>
    </div>
    <div v-else-if="!data" class="missing soft">Opening…</div>
    <RouterView v-else class="content" />
    <ReadingsTable v-if="readingsShown && data" @close="readingsShown = false" />
    <KeyList v-model="keysShown" />
    <Finder v-model="finderShown" />
  </div>
</template>

<style scoped>
.frame {
  display: flex;
  flex-direction: column;
  height: 100%;
}
.bar {
  display: flex;
  align-items: center;
  gap: 12px;
  height: 44px;
  flex: none;
  padding: 0 14px 0 12px;
  border-bottom: 1px solid var(--ink);
  background: var(--paper);
  white-space: nowrap;
}
.past {
  flex: none;
  padding: 5px 14px;
  border-bottom: 1px solid var(--line);
  background: var(--sand);
}
.brand {
  font-size: 21px;
  font-weight: 800;
  letter-spacing: -0.02em;
  color: var(--ink);
  text-decoration: none;
}
.brand i {
  font-style: normal;
  color: var(--fresh);
}
.title {
  min-width: 7ch;
  overflow: hidden;
  text-overflow: ellipsis;
  max-width: 30ch;
  font-size: 14px;
}
.title:hover {
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
.naming {
  font: inherit;
  font-size: 14px;
  font-weight: 700;
  border: 1px solid var(--ink);
  border-radius: 3px;
  padding: 2px 6px;
  width: 26ch;
}
.rev {
  font-size: 12px;
}
nav {
  display: flex;
  gap: 2px;
  margin-left: 8px;
}
nav > * {
  padding: 4px 12px;
  border-radius: 3px;
  color: var(--soft);
  text-decoration: none;
  font-size: 14px;
}
nav > *:hover {
  color: var(--ink);
}
nav .router-link-exact-active {
  background: var(--sand-deep);
  color: var(--ink);
  font-weight: 700;
}
.count {
  font-size: 12px;
}
.play {
  margin-left: auto;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
.bar .play + .where {
  margin-left: 0;
  min-width: 17ch;
  text-align: left;
}
.where {
  margin-left: auto;
  margin-right: 6px;
  font-size: 15px;
  min-width: 20ch;
  text-align: right;
}
.where .soft {
  font-size: 13px;
}
.out {
  height: 28px;
  line-height: 26px;
  padding: 0 12px;
  border: 1px solid var(--ink);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
  font-weight: 600;
  text-decoration: none;
}
.out:hover {
  background: var(--sand);
}
.out:disabled {
  color: var(--off);
  border-color: var(--line);
  background: transparent;
}
button.out {
  cursor: pointer;
}
button.out:disabled {
  cursor: default;
}
.bar .listen {
  flex: none;
}
/* Where the head is full, what is needed least goes first. */
@media (width < 1500px) {
  .bar {
    gap: 9px;
  }
  .rev {
    position: absolute;
    clip-path: inset(50%);
  }
  nav > * {
    padding: 4px 7px;
  }
  .bar .play + .where {
    min-width: 15ch;
    margin-right: 0;
  }
  .out {
    padding: 0 8px;
  }
}
.notice {
  padding: 6px 14px;
  background: var(--ink);
  color: var(--on-ink);
}
.notice .link {
  color: var(--on-ink);
  font-weight: 700;
  margin-left: 8px;
}
/* Over the page: what is under a hand stays where it is. */
.notices {
  position: relative;
  z-index: 30;
  height: 0;
}
.content {
  flex: 1;
  min-height: 0;
}
@media (width < 1120px) {
  .bar {
    gap: 8px;
  }
  .rev,
  .play,
  .bar :deep(.even),
  .bar :deep(.master),
  .where .soft {
    display: none;
  }
  .where,
  .bar .play + .where {
    margin-left: auto;
    min-width: 0;
  }
  nav > * {
    padding: 4px 7px;
  }
}
/* They are on the worksheet all the same. */
@media (width < 1000px) {
  .findings {
    display: none;
  }
}
@media (width < 720px) {
  .bar {
    gap: 5px;
    padding: 0 6px;
  }
  .title {
    max-width: 9ch;
  }
  .where,
  .bar > .listen {
    display: none;
  }
  nav {
    margin: 0 auto 0 0;
  }
  nav > * {
    padding: 4px;
    font-size: 13px;
  }
  .out {
    padding: 0 6px;
  }
}
.missing {
  padding: 80px;
  text-align: center;
}
.missing h1 {
  font-size: 20px;
  margin-bottom: 8px;
}
.missing a {
  color: var(--ink);
}
/* The list of keys leads there too. */
@media (width < 900px) {
  nav .help {
    display: none;
  }
}
</style>
