<script setup lang="ts">
// One strip: a parameter's lanes over time on a chart. What it is about is in strip/content.ts, how it is drawn in
// strip/painter.ts, its keys in strip/keys.ts, what a pointer does in hands/.
import NoteField from '../parts/NoteField.vue'
import { computed, ref } from 'vue'
import type { Curve, Finding, PlacementOut, RegionOut, Schemas } from '../api/client'
import { follow } from '../lib/dragging'
import { useAlternatives } from '../state/alternatives'
import { useBench } from '../state/bench'
import { LEAST_DRAGGED, MOST_DRAGGED } from '../state/bench/heights'
import { useFollowing } from '../state/following'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { useWorksheet } from '../state/worksheet'
import type { HeardLine } from '../state/curves'
import { beatAt, LEFT, RIGHT, xOf } from '../lib/geometry'
import { lineOf } from '../lib/line'
import { counted } from '../lib/words'
import { RULE } from '../lib/drawing'
import { useHands } from './hands'
import { inkOf, useContent } from '../state/content'
import { useStripKeys } from './strip/keys'
import { usePainter } from './strip/painter'
import AlternativeRows from './AlternativeRows.vue'
import FollowOverlay from './FollowOverlay.vue'
import StripPoints from './StripPoints.vue'
import Chooser from '../parts/Chooser.vue'

const props = defineProps<{
  parameterId: string
  curves: Map<string, Curve>
  version: number
  reading: Schemas['ReadOut'] | undefined
  heard: HeardLine | undefined
  findings: Finding[] | undefined
}>()

const session = useSession()
const bench = useBench()
const selection = useSelection()
const worksheet = useWorksheet()
const alternatives = useAlternatives()
const following = useFollowing()
const plot = ref<HTMLElement | null>(null)
const content = useContent(props.parameterId)
const {
  parameter,
  track,
  lanes,
  isGuest,
  showsHeard,
  shared,
  sharable,
  trackLane,
  inRegions,
  regions,
  places,
  rails,
  laneAt,
  homeAt,
} = content
const ink = computed(() => inkOf(parameter.value))
const height = computed(() => bench.chartOf(props.parameterId))
/** The lane of this strip that was made by following, if one was. */
const made = computed(() => (session.lanesOf.get(props.parameterId) ?? []).find((l) => l.follows)?.follows)
const goes = computed(() => alternatives.rowsOf(props.parameterId))
const isUnfolded = computed(() => goes.value.length > 0 && alternatives.unfolded.includes(props.parameterId))
/** One strip can be come to by Tab, with its controls: the one that was used last. */
/** Whether the worksheet is about a lane of it. */
const chosen = computed(() => lanes.value.some((lane) => selection.lanes.includes(lane.id)))
const stop = computed(() => (bench.stopStrip === props.parameterId ? 0 : -1))

// ── what the head says ───────────────────────────────────────────────────────────────────────

const home = computed(() => {
  if (!lanes.value.length) return 'no lane yet'
  if (!inRegions.value) return 'on the track'
  return trackLane.value ? 'on the track and in its regions' : 'in its regions'
})
const precedence = computed(() => (trackLane.value && inRegions.value ? `${session.data?.precedence} lanes win here` : ''))
/** The value at the cursor: that of the lane which is heard there, or with its reason what is heard. */
const readOut = computed(() => {
  const now = props.reading
  if (showsHeard.value) return now ? `heard: ${now.text}` : ''
  const lane = session.speakingAt(props.parameterId, bench.hover ?? bench.cursor)
  return lane ? (now?.lanes[lane.id] ?? '') : `${parameter.value.value_text} (static)`
})
/** What groups above add to a level, and what that comes to. */
const net = computed(() => {
  const now = props.reading
  if (!now?.shares.length || showsHeard.value) return ''
  return `${now.shares.map((s) => `${s.name} ${s.text}`).join(', ')}: net ${now.text}`
})
const described = computed(
  () =>
    `${track.value.name} ${parameter.value.name}, ${home.value}, ` +
    `${lanes.value.reduce((sum, lane) => sum + lane.points, 0)} points. ${readOut.value} at the cursor.`,
)
function choosePrecedence(): void {
  worksheet.embedding = 'precedence'
  worksheet.verb = 'embed'
}

// ── hands, keys and drawing ──────────────────────────────────────────────────────────────────

const curveOf = (lane: string) => props.curves.get(lane)
/** The region or the finding whose name stands at the strip's foot under the pointer. */
function footAt(x: number, y: number): { region?: RegionOut; finding?: Finding } | undefined {
  if (y < scale.value.bottom + 1 || bench.closer) return undefined
  const beat = beatAt(x, bench.view, bench.plotWidth)
  const over = regions.value.filter(({ region }) => beat >= region.start && beat < region.start + region.length)
  const region = over.sort((a, b) => a.region.length - b.region.length)[0]?.region
  if (region) return { region }
  const finding = props.findings?.find((f) => beat >= f.start && beat < f.end)
  return finding ? { finding } : undefined
}
/** The placement whose rule is under the pointer; within a few pixels of an end, that end. */
function ruleAt(x: number, y: number): { place: PlacementOut; end: 'start' | 'end' | null } | undefined {
  if (Math.abs(y - RULE) > 6) return undefined
  for (const place of places.value) {
    const [a, b] = [place.start, place.start + place.length].map((beat) => xOf(beat, bench.view, bench.plotWidth)) as [
      number,
      number,
    ]
    if (x < a - 4 || x > b + 4) continue
    const near = b - a > 24 ? 6 : 0
    return { place, end: x < a + near ? 'start' : x > b - near ? 'end' : null }
  }
  return undefined
}
const { scale, soon } = usePainter(content, props, height, () => stroke.value)
const hands = useHands({ plot, scale, parameter, lanes, curveOf, laneAt, homeAt, ruleAt, rails, footAt, redraw: soon })
const { said, box, stroke } = hands
const key = useStripKeys(content, curveOf, hands.add)

const under = computed(() => bench.under[props.parameterId] ?? 0)
const wide = computed(() => bench.plotWidth + LEFT + RIGHT)
/** The alternative that is laid over the curve, in pencil. */
const overPath = computed(() => {
  const curve = alternatives.curves.get(alternatives.over[props.parameterId] ?? '')
  if (!curve) return ''
  const { xs, ys } = lineOf(curve, { view: bench.view, width: bench.plotWidth, height: height.value }, scale.value)
  return xs.map((x, i) => `${i ? 'L' : 'M'}${x.toFixed(1)} ${ys[i]!.toFixed(1)}`).join('')
})

const onRail = ref(false)
function hover(event: PointerEvent): void {
  onRail.value = hands.holds(event)
  const beat = hands.beatOf(event)
  bench.hover = beat >= bench.view.start && beat <= bench.view.end ? beat : null
}
function resize(event: PointerEvent): void {
  const before = height.value
  const dragged = bench.heights
  follow(event, {
    move: (next) => bench.setHeight(props.parameterId, before + next.clientY - event.clientY),
    giveUp: () => (bench.heights = dragged),
  })
}
function resizeByKey(event: KeyboardEvent): void {
  const step = { ArrowDown: 12, ArrowUp: -12 }[event.key]
  if (!step) return
  event.preventDefault()
  event.stopPropagation()
  bench.setHeight(props.parameterId, height.value + step)
}
</script>

<template>
  <section
    class="strip"
    :class="{ guest: isGuest, chosen }"
    :style="{ height: `${height + under}px` }"
    :data-strip="parameterId"
    @focusin="bench.atStrip = parameterId"
  >
    <div
      ref="plot"
      class="plot"
      :class="{ 'on-rail': onRail }"
      :style="{ bottom: `${under - 1}px` }"
      role="group"
      :aria-label="described"
      :tabindex="stop"
      @pointerdown="hands.press"
      @dblclick="hands.doubleClick"
      @pointermove="hover"
      @pointerleave="bench.hover = null"
      @keydown="key"
    >
      <StripPoints :lanes="lanes" :parameter="parameter" :curves="curves" :version="version" />
    </div>
    <FollowOverlay v-if="following.driven.has(parameterId)" :height="height" :stop="stop" />
    <svg v-if="overPath" class="laid-over" :width="wide" :height="height" aria-hidden="true">
      <path :d="overPath" fill="none" stroke="currentColor" stroke-width="1.4" stroke-dasharray="5 3" />
    </svg>
    <div
      v-if="box"
      class="box"
      :style="{
        left: `${box.left}px`,
        top: `${box.top}px`,
        width: `${box.right - box.left}px`,
        height: `${box.bottom - box.top}px`,
      }"
    />
    <output v-if="said" class="said number" :style="{ left: `${said.x + 12}px`, top: `${Math.max(said.y - 24, 0)}px` }">{{
      said.text
    }}</output>
    <div class="head">
      <header>
        <b>{{ track.name }}</b>
        <b :class="`ink-${ink}`">{{ parameter.name }}</b>
        <button
          :tabindex="stop"
          v-for="p in shared"
          :key="p.id"
          class="link"
          :class="`ink-${inkOf(p)}`"
          :title="`Take ${p.name} off this strip`"
          @click="bench.toggleShare(parameterId, p.id)"
        >
          with {{ p.name }}
        </button>
        <span class="soft">{{ home }}</span>
        <span v-if="parameter.soundless" class="soft" :title="`${parameter.name} is not heard: no stand-in`"
          >no sound for it</span
        >
        <button
          :tabindex="stop"
          v-if="!track.reads && !session.readOnly"
          class="link alarm"
          :title="`None of ${track.name}’s lanes is heard: set it to read`"
          @click="worksheet.setMode(track.id, false)"
        >
          not reading
        </button>
        <span v-if="session.readOnly && !track.reads" class="alarm">not reading</span>
        <span v-if="session.readOnly && precedence" class="soft">{{ precedence }}</span>
        <button
          v-else-if="precedence"
          :tabindex="stop"
          class="link soft"
          title="See and change which lane wins"
          @click="choosePrecedence"
        >
          {{ precedence }}
        </button>
        <button
          v-if="made && !session.readOnly"
          class="link soft"
          :tabindex="stop"
          :aria-label="`How ${track.name} ${parameter.name} follows`"
          title="It was made by following: open it with its numbers"
          @click="worksheet.reopen(made)"
        >
          follows
        </button>
        <button
          v-if="goes.length"
          class="link soft"
          :tabindex="stop"
          :aria-expanded="isUnfolded"
          :aria-label="`${counted(goes.length, 'alternative')} of ${track.name} ${parameter.name}`"
          @click="alternatives.toggle(parameterId)"
        >
          {{ counted(goes.length, 'alternative') }}
        </button>
        <span v-if="isGuest && !bench.closer" class="soft">shown for the preview</span>
        <span v-if="showsHeard && reading" class="soft">{{ reading.why }}</span>
        <NoteField
          v-if="!bench.closer && !session.readOnly"
          :class="{ every: !session.noteOn('parameter', parameterId) }"
          about="parameter"
          :of="parameterId"
          :called="`${track.name} ${parameter.name}`"
          :stop="stop"
        />
      </header>
      <div class="corner">
        <button
          class="link every"
          :tabindex="stop"
          :title="`Show only ${parameter.name}, on every track`"
          @click="bench.showEvery(parameterId)"
        >
          every {{ parameter.name }}
        </button>
        <Chooser
          v-if="sharable.length"
          class="every"
          model-value=""
          none="share with"
          :label="`Another lane of ${track.name} on this strip`"
          :options="sharable.map((p) => ({ value: p.id, label: p.name }))"
          @update:model-value="(id) => bench.toggleShare(parameterId, id)"
        />
        <RouterLink
          v-if="!session.readOnly"
          class="link every"
          :tabindex="stop"
          :to="{ name: 'log', query: { lane: parameterId } }"
          :aria-label="`What happened to ${track.name} ${parameter.name}`"
          >what happened</RouterLink
        >
        <button
          :tabindex="stop"
          class="link every"
          :aria-pressed="showsHeard"
          title="Draw what is heard, with its reasons"
          @click="bench.toggleHeard(parameterId)"
        >
          heard
        </button>
        <span v-if="net" class="soft number net">{{ net }}</span>
        <span class="number read-out">{{ readOut }}</span>
        <template v-if="bench.closer" />
        <button v-else-if="isGuest" :tabindex="stop" class="link" @click="bench.pin(parameterId)">keep</button>
        <button
          v-else
          class="link"
          :tabindex="stop"
          :aria-label="`Unpin ${track.name} ${parameter.name}`"
          @click="bench.togglePin(parameterId)"
        >
          unpin
        </button>
      </div>
    </div>
    <AlternativeRows v-if="isUnfolded" :parameter-id="parameterId" :stop="stop" :style="{ height: `${under}px` }" />
    <div
      class="grip"
      :style="{ bottom: `${under}px` }"
      role="separator"
      aria-orientation="horizontal"
      :tabindex="stop"
      :aria-label="`Height of ${track.name} ${parameter.name}`"
      :aria-valuenow="height"
      :aria-valuemin="LEAST_DRAGGED"
      :aria-valuemax="MOST_DRAGGED"
      @pointerdown="resize"
      @keydown="resizeByKey"
    />
  </section>
</template>

<style scoped>
.strip {
  position: relative;
  border-bottom: 1px solid var(--line);
  overflow: hidden;
  user-select: none;
}
/* What the worksheet is about. */
.strip.chosen::before {
  content: '';
  position: absolute;
  z-index: 1;
  inset: 0 auto 0 0;
  width: 4px;
  background: var(--ink);
  pointer-events: none;
}
.box {
  position: absolute;
  border: 1px dashed var(--ink);
  background: color-mix(in srgb, var(--ink) 6%, transparent);
  pointer-events: none;
}
/* Over the words of the strip's head, which come where the pointer is. */
.said {
  position: absolute;
  z-index: 2;
}
.plot {
  position: absolute;
  inset: 0 0 -1px;
  cursor: crosshair;
  touch-action: none;
}
.laid-over {
  position: absolute;
  inset: 0 auto auto 0;
  overflow: hidden;
  color: var(--soft);
  pointer-events: none;
}
.plot.on-rail {
  cursor: ns-resize;
}
.plot:focus-visible {
  outline-offset: -2px;
}
.head {
  position: absolute;
  top: 2px;
  left: 12px;
  right: 70px;
  display: flex;
  justify-content: space-between;
  gap: 16px;
  font-size: 12px;
  pointer-events: none;
}
/* Names win over what stands on the right; they are cut with “…” only where nothing else is left. */
header {
  display: flex;
  flex: 1 0 auto;
  max-width: 100%;
  gap: 8px;
  min-width: 0;
  overflow: hidden;
  white-space: nowrap;
}
.alarm {
  color: var(--fresh);
  font-weight: 700;
}
header > b {
  overflow: hidden;
  text-overflow: ellipsis;
}
.corner {
  display: flex;
  justify-content: flex-end;
  gap: 10px;
  min-width: 0;
  overflow: hidden;
  white-space: nowrap;
}
.corner > * {
  pointer-events: auto;
}
.corner .link {
  color: var(--soft);
}
.strip:hover .corner .net,
.strip:focus-within .corner .net {
  display: none;
}
.corner .net,
.corner .read-out {
  pointer-events: none;
}
.corner .net {
  flex: 0 1 auto;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
.corner > :not(.net) {
  flex: none;
}
header .every,
.corner .every {
  display: none;
}
.strip:hover header .every,
.strip:focus-within header .every,
.strip:hover .corner .every,
.strip:focus-within .corner .every {
  display: revert;
}
/* No lower than the head, so that the rules of placements under it can be taken hold of. */
.corner > * {
  line-height: 15px;
}
.corner .chooser {
  width: 92px;
  color: var(--soft);
}
.corner .chooser :deep(.closed) {
  height: 16px;
  background-position:
    right 10px top 6px,
    right 6px top 6px,
    0 0;
}
header .note,
header .note-field {
  pointer-events: auto;
}
header .link {
  pointer-events: auto;
  font-weight: 700;
}
/* Where there is little room, what can be pressed goes before what is only said. */
@media (width < 1500px) {
  .strip:hover header > span.soft,
  .strip:focus-within header > span.soft {
    display: none;
  }
}
.grip {
  position: absolute;
  left: 0;
  right: 0;
  bottom: 0;
  height: 5px;
  cursor: ns-resize;
}
.grip:hover,
.grip:focus-visible {
  background: var(--sand-deep);
}
</style>
