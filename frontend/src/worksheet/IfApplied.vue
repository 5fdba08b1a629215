<script setup lang="ts">
// If applied: the figures and cautions of the preview, and the button that does it.
import { ElMessage } from 'element-plus/es/components/message/index.mjs'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { sentence, type AnyRequest, type Remedy } from '../api/client'
import { aboutVerb, helpAt } from '../lib/help'
import { VERBS } from '../lib/table'
import { useBench } from '../state/bench'
import { useWorksheet } from '../state/worksheet'
import { useSelection } from '../state/selection'
import { usePreview } from '../state/preview'
import { useSession } from '../state/session'
import { useWaiting } from '../state/waiting'
import { counted, figure, isolated } from '../lib/words'
import { allRead, mayBeReading, unread } from '../state/reading'

const session = useSession()
const worksheet = useWorksheet()
const selection = useSelection()
const bench = useBench()
const preview = usePreview()
const waiting = useWaiting()
const busy = ref(false)
/** The regions that the last step made, to be chosen with one click. */
const came = ref<string[]>([])
const stillThere = computed(() => came.value.filter((id) => session.regions.has(id)))
const nextFrame = () => new Promise((done) => requestAnimationFrame(done))
const aside = ref<HTMLElement | null>(null)

const change = computed(() => preview.change)
const asked = computed(() => (preview.request ?? preview.draft)?.verb)
const touched = computed(() => change.value?.touched ?? [])
const limited = computed(() => change.value?.spans_limited ?? 0)
const outside = computed(() => change.value?.span_text || 'these spans')
const placed = computed(() => change.value?.regions ?? [])
const cautions = computed(() => change.value?.cautions ?? [])
const MOST = 5
/** A field whose text cannot be read: what it says is not what would be applied. */
const wrong = computed(() => [...unread.values()][0])
/** Whether something is heard differently where no lane is changed: the cautions say what. */
const ELSEWHERE = ['heard-elsewhere', 'now-reading', 'members-heard', 'rests']
const elsewhere = computed(() => cautions.value.some((c) => ELSEWHERE.includes(c.code)))
const ready = computed(
  () => !!change.value && !change.value.empty && !preview.waiting && !busy.value && !wrong.value && session.newer === null,
)
/** A newer preview is on its way: a press is remembered until it is there, and not lost between its two halves. */
const waits = computed(() => preview.waiting && !busy.value && session.newer === null)
/** What can be asked for instead where linked places are written on. */
const LINKS = { follow: 'everywhere', here: 'here only', free: 'set free' } as const
const linkChoices = computed(() => {
  if (preview.problem?.code === 'links') return Object.keys(LINKS) as (keyof typeof LINKS)[]
  const met = change.value?.links
  return met ? (Object.keys(LINKS) as (keyof typeof LINKS)[]).filter((x) => met.choices.includes(x)) : []
})
/** What happens to them as it stands. */
const linksDo = computed(() => preview.links ?? change.value?.links?.does ?? null)
const hint = computed(() => {
  const verb = VERBS.find((v) => v.id === worksheet.verb)
  const begun = worksheet.verb === 'points' ? selection.pointCount : selection.lanes.length
  return preview.hint || (begun && verb?.then) || (verb?.hint ?? '')
})

async function apply(): Promise<void> {
  const request = preview.request
  if (!ready.value || !request || !worksheet.confirmed) return
  busy.value = true
  const places = touched.value.map((t) => ({ parameter: t.parameter, start: t.start, end: t.end }))
  const there = new Set(session.regions.keys())
  const title = await session.apply(request, preview.links, undefined, preview.instead, preview.keep && preview.canKeep)
  busy.value = false
  if (!title) return
  preview.spend(request, title)
  came.value = [...session.regions.keys()].filter((id) => !there.has(id))
  for (const place of places.slice(0, 12)) bench.pin(place.parameter)
  if (places[0]) bench.goTo(places[0].parameter, places[0])
  await nextTick()
  // The button may be pressed no more: the keys go on from where it was.
  if (!document.activeElement || document.activeElement === document.body || document.activeElement.matches(':disabled'))
    aside.value?.focus()
  // Where the sheet asks for the same again, what was done is said beside it.
  if (!preview.isSpent) ElMessage({ message: `Done: ${title}`, duration: 2200, offset: 5, customClass: 'done' })
}

/** Do what a caution or a refusal offers: ask for more regions too, show the step to take first, or choose what links do. */
function take(remedy: Remedy): void {
  if (remedy.also.length) selection.regions = [...new Set([...selection.regions, ...remedy.also])]
  if (remedy.step) preview.first = remedy.step
  if (remedy.links) preview.links = remedy.links
}

/** Where what was refused is said on the sheet: its first field that is about that, else the sheet itself. */
const FIELDS: Record<string, string> = { range: 'start', ramp: 'edges', position: 'at', step: 'to' }
async function toField(place: string): Promise<void> {
  const name = FIELDS[place] ?? place
  const find = () => document.querySelector<HTMLElement>(`.worksheet .box [data-field~='${CSS.escape(name)}']`)
  if (worksheet.folded && find()) worksheet.editing = name
  else worksheet.folded = false
  await nextTick()
  const box = find() ?? document.querySelector<HTMLElement>('.worksheet .box')
  box?.querySelector<HTMLElement>('input:not([type=radio]), [role=combobox], button, input')?.focus()
}

/** The strip a caution points to: what it names, else the first thing that is touched; nowhere if nothing is. */
function stripOf(caution: (typeof cautions.value)[number]): string | undefined {
  const there = touched.value.find((t) => t.track === caution.track) ?? touched.value.find((t) => t.lane === caution.lane)
  const lane = caution.lane ? session.lanes.get(caution.lane) : undefined
  return there?.parameter ?? lane?.parameter ?? touched.value[0]?.parameter
}

function goTo(caution: (typeof cautions.value)[number]): void {
  const parameter = stripOf(caution)
  if (!parameter) return
  const span = caution.start != null && caution.end != null ? { start: caution.start, end: caution.end } : undefined
  bench.goTo(parameter, span)
}

/** What a caution offers, but for what one above it offers already. */
function remediesOf(caution: (typeof cautions.value)[number], at: number): Remedy[] {
  const above = new Set(cautions.value.slice(0, at).flatMap((c) => [c.remedy?.words, ...c.others.map((r) => r.words)]))
  return [caution.remedy, ...caution.others].filter((r): r is Remedy => !!r && !above.has(r.words))
}
/** What becomes of a lane, in a word or by how much. */
function became(t: (typeof touched.value)[number]): string {
  if (t.stays && !t.points_after) return 'goes, and sounds the same'
  if (t.stays) return t.points_before === t.points_after ? 'as it is, but for its links' : 'the same in other points'
  return t.difference_text ? `up to ${t.difference_text}` : t.points_after ? 'new' : 'goes'
}
function span(r: { start: number; length: number }): string {
  return `${session.position(r.start)} to ${session.position(r.start + r.length)}`
}

function key(event: KeyboardEvent): void {
  if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return
  event.preventDefault()
  event.stopPropagation()
  void hurry()
}
/** Apply, or as soon as what is typed has been read and the preview that is on its way has come. */
async function hurry(): Promise<void> {
  if (mayBeReading()) {
    if (!(await allRead())) return
    await nextFrame() // what was read has changed the request by then
  }
  if (preview.waiting) hurried = preview.request
  else void apply()
}
/** What was to be applied by key before its preview had come: it is, once that is there. */
let hurried: AnyRequest | null = null
watch(
  () => preview.waiting,
  (now) => {
    if (now) return
    if (hurried && hurried === preview.request) void apply()
    hurried = null // one that was refused is not applied later by itself
  },
)
// While capturing, so that an open list of choices does not swallow the key.
onMounted(() => window.addEventListener('keydown', key, true))
onBeforeUnmount(() => window.removeEventListener('keydown', key, true))
</script>

<template>
  <aside
    ref="aside"
    tabindex="-1"
    class="result"
    :class="{ folded: worksheet.folded }"
    aria-label="If applied"
    aria-live="polite"
  >
    <h2>If applied</h2>
    <p v-if="wrong" class="warn">{{ wrong.label }}: {{ wrong.why }}</p>
    <p v-if="preview.first" class="first">
      <span
        >First: <b>{{ isolated(change?.title ?? '…') }}</b></span
      >
      <button class="link soft" @click="preview.first = null">not now</button>
    </p>
    <p v-if="linkChoices.length > 1" class="links" role="group" aria-label="Linked places">
      <span>Linked:</span>
      <button
        v-for="choice in linkChoices"
        :key="choice"
        class="link"
        :class="{ on: linksDo === choice }"
        :aria-pressed="linksDo === choice"
        @click="preview.links = choice"
      >
        {{ LINKS[choice] }}
      </button>
    </p>
    <p v-if="waiting.part !== null" class="working" role="status">
      <progress :value="waiting.part" max="1" aria-label="How far it has come" />
      <span class="number">{{ Math.round(waiting.part * 100) }} %</span>
      <button class="link remedy" @click="waiting.stop">stop</button>
    </p>
    <template v-if="preview.problem && waiting.part === null">
      <p class="warn">{{ sentence(preview.problem) }}</p>
      <button v-if="preview.problem.code === 'stopped'" class="link remedy" @click="preview.again()">work it out again</button>
      <button v-if="preview.problem.remedy" class="link remedy" @click="take(preview.problem.remedy)">
        {{ preview.problem.remedy.words }}
      </button>
      <button v-else-if="preview.problem.code !== 'stopped'" class="link remedy" @click="toField(preview.problem.place)">
        change it
      </button>
    </template>
    <p v-else-if="preview.isSpent && !preview.request" class="soft">
      Done: <b>{{ isolated(preview.spent?.title ?? '') }}</b>. Change something to go on, or
      <button class="link" @click="preview.spent = null">ask for the same again</button>.
      <button v-if="stillThere.length" class="link" @click="selection.regions = stillThere">
        Choose {{ counted(stillThere.length, 'new region') }}
      </button>
    </p>
    <p v-else-if="!change || (change.empty && !cautions.length)" class="soft">{{ preview.waiting ? 'Working it out…' : hint }}</p>
    <div v-else class="said">
      <p v-if="touched.length" class="number big">
        {{ figure(change.points_before) }} → {{ figure(change.points_after) }} points
      </p>
      <p v-if="change.heard" class="good">
        <b>{{ change.heard }}</b>
      </p>
      <ul v-if="cautions.length">
        <li v-for="(c, i) in cautions.slice(0, MOST)" :key="i">
          <button v-if="stripOf(c)" class="plain-button" :class="c.plain ? 'known' : 'warn'" @click="goTo(c)">
            {{ isolated(c.message) }}
          </button>
          <span v-else :class="c.plain ? 'known' : 'warn'">{{ isolated(c.message) }}</span>
          <button v-for="r in remediesOf(c, i)" :key="r.words" class="link remedy" @click="take(r)">
            {{ r.words }}
          </button>
        </li>
        <li v-if="cautions.length > MOST" class="soft">and {{ cautions.length - MOST }} more like these</li>
      </ul>
      <ul v-if="touched.length || placed.length" class="list">
        <li v-for="t in touched.slice(0, 4)" :key="t.parameter + t.home">
          <button class="link" @click="bench.goTo(t.parameter, t)">{{ t.name }}</button>
          <span class="soft">, {{ became(t) }}</span>
        </li>
        <li v-if="change.lanes > 4" class="soft">and {{ change.lanes - 4 }} more lanes</li>
        <li v-for="r in placed.slice(0, 3)" :key="r.id">
          <b>{{ r.name }}</b> <span class="soft number">{{ span(r) }}</span>
        </li>
        <li v-if="placed.length > 3" class="soft">and {{ placed.length - 3 }} more regions</li>
      </ul>
      <template v-if="!touched.length && !placed.length && !change.empty">
        <p>
          <b>{{ isolated(change.title) }}</b>
        </p>
        <p class="good">No lane changes</p>
      </template>
      <p v-if="touched.length" class="good">Outside {{ outside }} {{ elsewhere ? 'no lane changes' : 'nothing changes' }}</p>
      <p v-if="touched.length && !limited" class="good unlimited">Nothing limited</p>
    </div>
    <p v-if="helpAt && asked && (preview.problem || cautions.length)">
      <a class="link soft" :href="aboutVerb(asked)" target="velmot-help">about {{ asked }}</a>
    </p>
    <div class="buttons">
      <ElButton type="primary" :disabled="!(ready || (change && waits)) || !worksheet.confirmed" @click="hurry">Apply</ElButton>
      <button
        v-if="preview.canBeInstead"
        class="link"
        :class="{ on: preview.instead }"
        :aria-pressed="preview.instead"
        :title="`Put it in place of “${preview.spent?.title}”: one step, not two`"
        @click="preview.instead = !preview.instead"
      >
        in place of the last step
      </button>
      <button
        v-if="preview.canKeep"
        class="link"
        :class="{ on: preview.keep }"
        :aria-pressed="preview.keep"
        :title="preview.instead ? 'What the last step made is kept aside' : 'What these lanes do now is kept aside'"
        @click="preview.keep = !preview.keep"
      >
        keep what was there
      </button>
    </div>
  </aside>
</template>

<style scoped>
.result {
  display: flex;
  flex-direction: column;
  gap: 3px;
  padding: 8px 14px 12px;
  background: var(--fresh-paper);
}
.result:focus {
  outline: none;
}
h2 {
  font-size: 13px;
  color: var(--fresh);
}
.big {
  font-size: 18px;
  font-weight: 650;
  padding: 2px 0;
}
.said {
  overflow: auto;
  min-height: 0;
}
.good {
  color: var(--good);
}
.warn {
  color: var(--fresh);
  font-weight: 700;
}
.known {
  color: var(--soft-on-fresh);
}
.on {
  font-weight: 700;
}
.first {
  display: flex;
  gap: 10px;
  justify-content: space-between;
}

.links {
  display: flex;
  gap: 10px;
}
.links .on {
  font-weight: 700;
  text-decoration-style: solid;
}
.working {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.working progress {
  flex: 1;
  min-width: 60px;
  height: 4px;
  appearance: none;
  border: 0;
  background: var(--fresh-line);
}
.working progress::-webkit-progress-bar {
  background: var(--fresh-line);
}
.working progress::-webkit-progress-value {
  background: var(--fresh);
}
.working progress::-moz-progress-bar {
  background: var(--fresh);
}
.remedy {
  display: block;
  font-weight: 650;
}
.buttons {
  margin-top: auto;
  padding-top: 6px;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  align-items: baseline;
  white-space: nowrap;
}
.result .soft {
  color: var(--soft-on-fresh);
}
.folded {
  flex-direction: row;
  align-items: baseline;
  gap: 14px;
  padding: 2px 12px 8px;
}
.folded h2,
.folded .unlimited {
  display: none;
}
.folded .big {
  font-size: 15px;
}
.folded .said {
  display: flex;
  flex-wrap: wrap;
  flex: 1;
  align-items: baseline;
  gap: 2px 14px;
  max-height: 84px;
}
.folded .said ul {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
}
.folded .remedy {
  display: inline;
  margin-left: 6px;
}
.folded .buttons {
  margin: 0 0 0 auto;
  padding: 0;
}
</style>
