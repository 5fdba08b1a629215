<script setup lang="ts">
// The bench: ledger on the left, strips under one ruler in the middle, worksheet below.
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useFocusOnBench } from '../state/focus'
import { useKeys } from '../state/keys'
import { hints } from '../state/hints'
import { usePicture } from '../state/picture'
import { later, stripsStand } from './later'
import LedgerEdge from '../parts/LedgerEdge.vue'
import { useTransport } from '../state/desk/transport'
import { useDropping } from '../state/dropping'
import { GRIDS, useBench } from '../state/bench'
import { useNotices } from '../state/notices'
import { usePreview } from '../state/preview'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { useSets } from '../state/sets'
import { useWorksheet } from '../state/worksheet'
import { useAnnounced } from '../state/announced'
import CloserBar from '../bench/CloserBar.vue'
import { useCurves, useFindings, useHeardLines, useValues } from '../state/curves'
import { beatAt, gridStep, LEFT, RIGHT, snapped } from '../lib/geometry'
import { useNear } from '../state/near'
import HintLine from '../bench/HintLine.vue'
import Overview from '../bench/Overview.vue'
import { usePaper } from '../state/paper'
import { usePlaces } from '../state/places'
import Ruler from '../bench/Ruler.vue'
import Strip from '../bench/Strip.vue'
import Uprights from '../bench/Uprights.vue'
import { useWalking } from '../state/walking'
import Chooser from '../parts/Chooser.vue'

const Ledger = later('Ledger')
const Worksheet = later('Worksheet')
const session = useSession()
const preview = usePreview()
const bench = useBench()
const selection = useSelection()
const sets = useSets()
const worksheet = useWorksheet()
const dropping = useDropping()
const notices = useNotices()
const walk = useWalking()
const transport = useTransport()
const stage = ref<HTMLElement | null>(null)
const scroller = ref<HTMLElement | null>(null)
const paper = ref<HTMLCanvasElement | null>(null)
const { near, above, below } = useNear(scroller)
const { curves, version } = useCurves(near)
const lines = useHeardLines(near)
const findings = useFindings(near)
/** Where values are read: while a hand drags it is busy with others. */
const readAt = computed<number>((before) => (preview.gesture && before !== undefined ? before : (bench.hover ?? bench.cursor)))
const reading = useValues(
  () => near.value,
  () => readAt.value,
)
let sizes: ResizeObserver | null = null
usePaper(paper, scroller)
useFocusOnBench()
usePlaces()
useAnnounced(() => curves.value)

/** A file of sound is let fall on a strip: on its track, at that beat. */
function overStrips(event: DragEvent): void {
  if (event.dataTransfer?.types.includes('Files')) event.preventDefault()
}
function dropped(event: DragEvent): void {
  const file = event.dataTransfer?.files[0]
  const strip = (event.target as Element).closest<HTMLElement>('[data-strip]')
  if (!file) return
  event.preventDefault()
  const plot = strip?.querySelector('.plot')
  if (!strip || !plot) return notices.refuse('Drop a sound on a strip: it becomes the sound of that track')
  const beat = beatAt(event.clientX - plot.getBoundingClientRect().left, bench.view, bench.plotWidth)
  const at = snapped(beat, bench.grid, session.data?.bars ?? [], session.data?.length ?? 0)
  void dropping.drop(file, strip.dataset['strip']!, at)
}

function measure(): void {
  const inner = scroller.value?.clientWidth ?? 0
  if (inner) bench.plotWidth = Math.max(inner - LEFT - RIGHT, 100)
  bench.room = scroller.value?.clientHeight ?? bench.room
}
onMounted(() => {
  measure() // before anything is drawn, so that it is not drawn for another size first
  sizes = new ResizeObserver(measure)
  sizes.observe(scroller.value!)
})
onBeforeUnmount(() => sizes?.disconnect())

// Once the first curves are painted: a mark for whoever measures, and then the rest of the screen comes.
function mark(): void {
  requestAnimationFrame(() =>
    window.setTimeout(() => {
      performance.mark('strips drawn')
      stripsStand()
    }),
  )
}
if (version.value) onMounted(mark)
else watch(version, mark, { once: true })
watch(
  () => session.data && !bench.strips.length,
  (bare) => bare && stripsStand(),
  { immediate: true },
)

// ── moving about ─────────────────────────────────────────────────────────────────────────────

function wheel(event: WheelEvent): void {
  const box = stage.value!.getBoundingClientRect()
  const x = event.clientX - box.left
  const sideways = Math.abs(event.deltaX) > Math.abs(event.deltaY)
  const zooming = event.ctrlKey || event.metaKey || event.altKey
  if (!zooming && !sideways && !event.shiftKey) return // the strips scroll by themselves
  event.preventDefault()
  const amount = (sideways ? event.deltaX : event.deltaY) * (event.deltaMode ? 16 : 1)
  if (zooming) bench.zoom(Math.exp(Math.min(Math.max(amount, -200), 200) / 400), beatAt(x, bench.view, bench.plotWidth))
  else bench.pan((amount / bench.plotWidth) * width())
}
const picture = usePicture()
const width = () => bench.view.end - bench.view.start
const middle = () => bench.hover ?? bench.view.start + width() / 2

useKeys({
  play: () => session.readOnly && transport.toggle(), // else the worksheet's
  earlier: () => bench.pan(-width() / 8),
  later: () => bench.pan(width() / 8),
  'zoom in': () => bench.zoom(0.7, middle()),
  'zoom out': () => bench.zoom(1 / 0.7, middle()),
  'zoom to session': () => bench.show({ start: 0, end: bench.length }),
  'zoom to range': () => selection.range && bench.showAround(selection.range),
  'next lane': () => walk('lane', 1),
  'previous lane': () => walk('lane', -1),
  'next track': () => walk('track', 1),
  'previous track': () => walk('track', -1),
  'next set': () => sets.next(),
  'cursor earlier': () => stepCursor(-1),
  'cursor later': () => stepCursor(1),
  'range from': () => setRange('start'),
  'range to': () => setRange('end'),
  'fold ledger': () => bench.toggleLedger(),
  'heard everywhere': () => bench.toggleHeardEverywhere(),
  'strip size': () => bench.nextSize(),
  'large strip': () => bench.toggleLarge(session.lanes.get(selection.lanes[0] ?? '')?.parameter ?? bench.strips[0]),
  picture: () => picture.takeView(),
  'look closer': () => bench.lookCloser(bench.closer ? null : (selection.regions[0] ?? null)),
  'let go': () => {
    if (bench.closer) bench.lookCloser(null)
    selection.letGo()
  },
})

/** Scroll no further than brings a strip whole into sight, whether it is made yet or not. */
function scrollTo(parameter: string): void {
  const box = scroller.value
  const at = bench.strips.indexOf(parameter)
  if (!box || at < 0) return
  const top = bench.strips.slice(0, at).reduce((sum, id) => sum + bench.heightOf(id), 0)
  const tall = bench.heightOf(parameter)
  if (top < box.scrollTop) box.scrollTop = top
  else if (top + tall > box.scrollTop + box.clientHeight) box.scrollTop = top + tall - box.clientHeight
}

watch(
  () => bench.going,
  async (parameter) => {
    if (!parameter) return
    await nextTick()
    scrollTo(parameter)
    bench.going = null
    if (!bench.focusing) return
    bench.focusing = false
    await nextTick()
    scroller.value?.querySelector<HTMLElement>(`[data-strip="${CSS.escape(parameter)}"] > .plot`)?.focus({ preventScroll: true })
  },
)

/** The cursor a step of the grid along, kept in sight. */
function stepCursor(way: 1 | -1): void {
  const { bars, length } = session.data!
  const bar = bars.findLast((b) => b.beat <= bench.cursor + 1e-9) ?? bars[0]
  const grid = bench.grid === 'off' ? '1/4' : bench.grid
  const step = grid === 'bar' ? ((bar?.count ?? 4) * 4) / (bar?.unit ?? 4) : gridStep(grid)
  const here = snapped(bench.cursor, grid, bars, length)
  const onIt = Math.abs(here - bench.cursor) < 1e-9
  const next = onIt || (here - bench.cursor) * way < 0 ? snapped(here + way * step, grid, bars, length) : here
  bench.cursor = Math.min(Math.max(next, 0), length)
  const { start, end } = bench.view
  if (bench.cursor < start || bench.cursor > end) bench.pan(bench.cursor - (start + end) / 2)
}
/** The range from the cursor, or up to it: the other end stays, if it lies on that side. */
function setRange(edge: 'start' | 'end'): void {
  const at = bench.cursor
  const { start, end } = selection.range ?? { start: at, end: at }
  const next = edge === 'start' ? { start: at, end: end > at ? end : bench.length } : { start: start < at ? start : 0, end: at }
  if (next.end > next.start) selection.range = next
  const lane = session.lanesOf.get(bench.stopStrip ?? '')?.[0]
  if (lane && !selection.lanes.length) selection.lanes = [lane.id]
}

/** Parameters of the region's track that could have automation in it. */
const able = computed(() => session.regions.get(bench.closer ?? '')?.track.parameters ?? [])
const empty = computed(() => session.data && !session.data.lanes.length)
</script>

<template>
  <div class="page" :style="{ gridTemplateColumns: `min(${bench.ledger}px, 34vw) minmax(0, 1fr)` }">
    <Ledger class="ledger" :class="{ away: !bench.ledger }" />
    <main ref="stage" class="stage" aria-label="Bench" @wheel="wheel" @dragover="overStrips" @drop="dropped">
      <h1 class="out-of-sight">Bench of {{ session.data?.name }}</h1>
      <LedgerEdge class="edge" />
      <CloserBar v-if="bench.closer" />
      <Overview v-else />
      <div class="ruler-row">
        <Ruler />
        <Chooser
          v-model="bench.grid"
          class="snap"
          label="Snap to"
          title="Snap to this grid; hold Alt to be free of it"
          :options="GRIDS.map((grid) => ({ value: grid, label: grid === 'off' ? 'no snap' : grid }))"
        />
      </div>
      <Uprights />
      <div ref="scroller" class="scroller">
        <div class="strips">
          <canvas ref="paper" class="paper" aria-hidden="true" />
          <div :style="{ height: `${above}px` }" />
          <Strip
            v-for="parameter in near"
            :key="parameter"
            :parameter-id="parameter"
            :curves="curves"
            :version="version"
            :reading="reading.get(parameter)"
            :heard="lines.get(parameter)"
            :findings="findings.get(parameter)"
          />
          <div :style="{ height: `${below}px` }" />
        </div>
        <p v-if="dropping.part !== null" class="coming" role="status">
          The sound is coming in: {{ Math.round(dropping.part * 100) }} %
        </p>
        <div v-if="session.data && !session.data.tracks.length" class="hint">
          <h2>This session has no tracks</h2>
          <p>There is nothing here to carry or to carry to. <RouterLink to="/">Open or import another one</RouterLink>.</p>
        </div>
        <div v-else-if="empty" class="hint">
          <h2>This session has no lanes yet</h2>
          <p>
            Click a track in the ledger to open its channel card: using any control there makes its lane. Or paste lanes copied
            from another session.
          </p>
        </div>
        <div v-else-if="bench.closer && !bench.strips.length" class="hint">
          <h2>This region has no automation yet</h2>
          <p>Begin it with one of these, and draw on its strip:</p>
          <p class="able">
            <button v-for="p in able" :key="p.id" class="link" @click="bench.begin(p.id)">{{ p.name }}</button>
          </p>
        </div>
        <div v-else-if="!bench.strips.length" class="hint">
          <h2>Nothing is pinned</h2>
          <p>Choose a lane in the ledger on the left, and it appears here.</p>
        </div>
      </div>
      <HintLine v-if="hints" />
    </main>
    <div v-if="!session.readOnly" class="foot" :class="{ low: worksheet.folded || worksheet.over }"><Worksheet /></div>
  </div>
</template>

<style scoped>
.coming {
  position: sticky;
  bottom: 0;
  padding: 4px 14px;
  background: var(--sand);
}
.page {
  --worksheet: 266px;

  overflow: clip;
  display: grid;
  position: relative;
  grid-template-rows: minmax(0, 1fr) auto;
  height: 100%;
  min-height: 0;
}
@media (width >= 1700px) {
  .page {
    --worksheet: 270px;
  }
}
@media (height < 620px) {
  .page {
    --worksheet: 190px;
  }
}
.ledger {
  grid-area: 1 / 1;
  min-width: 0;
  min-height: 0;
}
/* By a class: a directive on it would draw the whole ledger anew with every move of the pointer. */
.away {
  display: none;
}
.edge {
  position: absolute;
  z-index: 3;
  inset: 0 auto 0 -4px;
}
.stage {
  grid-area: 1 / 2;
  position: relative;
  border-left: 1px solid var(--line);
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
  background: var(--sheet);
}
/* As high as the worksheet is, so that the strips stay where they are when it comes. */
.foot {
  grid-column: 1 / -1;
  min-width: 0;
  /* As high before the worksheet is there as with it: nothing moves when it comes. */
  min-height: calc(var(--worksheet) + 1px);
  border-top: 1px solid var(--ink);
}
/* Folded, what it says lies over the strips where it needs more room: they stay where they are. */
.foot.low {
  position: relative;
  z-index: 5;
  height: 72px;
  min-height: 0;
}
.foot.low > :deep(*) {
  position: absolute;
  inset: 0 0 auto;
  transform: translateY(calc(72px - 100%));
  will-change: transform;
  border-top: 1px solid var(--ink);
}
.scroller {
  flex: 1;
  overflow-y: auto;
  overflow-x: hidden;
  scrollbar-gutter: stable;
  scrollbar-width: thin;
}
.strips {
  position: relative;
}
.paper {
  position: absolute;
  left: 0;
  pointer-events: none;
}
.ruler-row {
  position: relative;
}
.snap {
  position: absolute;
  right: 6px;
  top: 4px;
}
.hint {
  padding: 60px 12px;
  text-align: center;
  max-width: 46ch;
  margin: 0 auto;
}
.able {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  gap: 4px 14px;
}
.hint h2 {
  font-size: 16px;
  margin-bottom: 6px;
}
</style>
