<script setup lang="ts">
// One control of the desk: a ruled column with a line where the control stands, its value to be read from afar, its mode.
import { computed, onBeforeUnmount, ref } from 'vue'
import { fromAxis, nearestMark, toAxis } from '../../lib/geometry'
import { distanceText, valueText } from '../../lib/said'
import { inkOf } from '../../state/content'
import Chooser from '../../parts/Chooser.vue'
import { follow } from '../../lib/dragging'
import { useSession } from '../../state/session'
import MeterLines from '../../parts/MeterLines.vue'
import { useListening } from '../../state/listening'
import { useController } from '../../state/desk/controller'
import { useRiding } from '../../state/desk/riding'
import { WRITING, type Mode } from '../../state/desk/pass'

const props = defineProps<{ parameterId: string; number: number }>()
const session = useSession()
const riding = useRiding()
const listening = useListening()
const controller = useController()
const rule = ref<HTMLElement | null>(null)

const owner = computed(() => session.parameters.get(props.parameterId)!)
const p = computed(() => owner.value.parameter)
const channel = session.parameters.get(props.parameterId)!.track.id
onBeforeUnmount(listening.watchMeter(channel))
const trims = computed(() => riding.trims(props.parameterId))
const value = computed(() => riding.valueOf(props.parameterId))
const held = computed(() => riding.held(props.parameterId))
const mode = computed(() => riding.modeOf(props.parameterId))
const writes = computed(() => WRITING.includes(mode.value as Mode))
const inHand = computed(() => riding.inHand.includes(props.parameterId))
/** The lowest place of the rule: a level's last decibels above silence are not worth half of it. */
const low = computed(() => {
  const least = toAxis(p.value, p.value.low)
  return p.value.axis.floor === null ? least : Math.max(least, high.value - RULED)
})
const high = computed(() => toAxis(p.value, p.value.high))
const reach = computed(() => high.value - low.value)
const RULED = 60 // decibels
const TRIM = 12 // nudges of a trim above and below 0; an octave on either side
const trimReach = computed(() => (p.value.axis.logarithmic ? 1 : p.value.axis.nudges.usual * TRIM))

/** A value's place on the rule, in parts from its foot. */
function partOf(at: number): number {
  if (trims.value) return 0.5 + at / (2 * trimReach.value)
  return (toAxis(p.value, at) - low.value) / reach.value
}
const percent = (part: number) => `${Math.min(Math.max(part, 0), 1) * 100}%`
const stands = computed(() => percent(partOf(value.value)))
/** Where its lane goes on without the hand. */
const lane = computed(() => (trims.value || !held.value ? null : percent(partOf(riding.standing(props.parameterId, riding.at)))))
const LOWEST = 0.05 // of the rule: what stands there is named above its line
const APART = 0.1 // of the rule, at least, between the names of marks
const marks = computed(() => {
  const all = trims.value ? [{ value: 0, text: '0' }] : p.value.axis.marks
  let last = Infinity
  return [...all].reverse().filter((mark) => {
    const part = partOf(mark.value)
    if (part < -1e-9 || part > 1 + 1e-9 || last - part < APART) return false
    last = part
    return true
  })
})
const said = computed(() => {
  if (!trims.value) return valueText(p.value, value.value)
  return `${value.value < 0 ? '−' : '+'}${distanceText(p.value, Math.abs(value.value))}`
})
const drives = computed(() =>
  held.value ? 'under your hand' : trims.value ? 'a change, from 0' : riding.drives(props.parameterId),
)
const groups = computed(() => riding.controls.get(props.parameterId)?.groups ?? '')

const MODES: { value: Mode; label: string }[] = [
  { value: "the track's", label: 'as the track' },
  ...(['touch', 'latch', 'write', 'read'] as const).map((m) => ({ value: m, label: m })),
]

/** Take hold where the control stands, and move it as far as the pointer goes; a switch goes to its other value. */
function press(event: PointerEvent): void {
  if (event.button !== 0) return
  const id = props.parameterId
  if (p.value.kind === 'switch') {
    const other = p.value.axis.marks.find((m) => m.value !== value.value)
    const giveUp = riding.grab(id, other?.value, riding.beatOf(event))
    follow(event, { move: () => undefined, drop: (_, last) => riding.letGo(id, riding.beatOf(last)), giveUp })
    return
  }
  const tall = rule.value!.clientHeight
  const range = trims.value ? 2 * trimReach.value : reach.value
  const [least, most] = trims.value ? [-reach.value, reach.value] : [toAxis(p.value, p.value.low), high.value]
  const when = riding.beatOf(event)
  let last = event.clientY
  let far = 0 // how far it was pulled
  let base: number | null = null
  let giveUp: () => void = () => undefined
  /** What was pulled and let go of before it was known where the control stands is done once it is. */
  let owed: (() => void)[] = []
  const once = (work: () => void) => (base === null ? owed.push(work) : work())
  const cancel = riding.whenKnown(id, () => {
    giveUp = riding.grab(id, undefined, when)
    base = trims.value ? riding.valueOf(id) : toAxis(p.value, riding.valueOf(id))
    for (const work of owed) work()
    owed = []
  })
  follow(event, {
    move: (next) => {
      far += ((last - next.clientY) / tall) * range * (next.altKey ? 0.1 : 1)
      last = next.clientY
      const [pulled, at] = [far, riding.beatOf(next)]
      once(() => {
        const kept = Math.min(Math.max(base! + pulled, least), most)
        riding.move(id, trims.value ? kept : valueAt(kept), at)
      })
    },
    drop: (_, up) => {
      const at = riding.beatOf(up)
      once(() => riding.letGo(id, at))
    },
    giveUp: () => {
      cancel()
      giveUp()
    },
  })
}
function valueAt(y: number): number {
  const at = Math.min(Math.max(fromAxis(p.value, y), p.value.low), p.value.high)
  if (p.value.kind === 'continuous') return at
  return nearestMark(p.value, at)!.value
}
</script>

<template>
  <section
    class="column"
    :class="{ held, writes }"
    :aria-label="`${owner.track.name} ${p.name} on the desk`"
    :data-control="parameterId"
  >
    <header>
      <span class="track" :title="owner.track.name">{{ owner.track.name }}</span>
      <button
        class="digit number"
        :class="{ on: inHand }"
        :aria-pressed="inHand"
        :title="`${inHand ? 'In hand: the keys up and down ride it' : 'Take it in hand, to ride it by keys'} (${number})`"
        @click="riding.toggleInHand(parameterId)"
      >
        {{ number }}
      </button>
      <b :class="`ink-${inkOf(p)}`">{{ p.name }}</b>
    </header>
    <output class="value number" :class="{ fresh: held && writes, long: said.length > 8 }">{{ said }}</output>
    <MeterLines
      class="sounds"
      :levels="listening.levels?.of.get(channel) ?? null"
      :width="58"
      :over="listening.overText(channel)"
    />
    <div
      ref="rule"
      class="rule"
      role="slider"
      tabindex="0"
      :aria-label="`${owner.track.name} ${p.name}`"
      :aria-valuetext="said"
      :aria-valuenow="value"
      :aria-valuemin="trims ? -trimReach : p.low"
      :aria-valuemax="trims ? trimReach : p.high"
      @pointerdown="press"
    >
      <i
        v-for="mark in marks"
        :key="mark.value"
        class="mark"
        :class="{ lowest: partOf(mark.value) < LOWEST }"
        :style="{ bottom: percent(partOf(mark.value)) }"
        ><small>{{ mark.text }}</small></i
      >
      <i v-if="lane" class="lane" :style="{ bottom: lane }" />
      <i class="stands" :style="{ bottom: stands }" />
    </div>
    <p class="drives soft" :title="drives">
      <span>{{ drives }}</span>
      <button class="link soft off" :title="`Take ${owner.track.name} ${p.name} off the desk`" @click="riding.take(parameterId)">
        off
      </button>
    </p>
    <footer>
      <Chooser
        class="mode"
        :label="`Mode of ${owner.track.name} ${p.name}`"
        :model-value="riding.settingOf(parameterId).mode"
        :options="MODES"
        upwards
        @update:model-value="(m) => riding.set(parameterId, { mode: m as Mode })"
      />
      <button
        v-if="p.kind === 'continuous'"
        class="link soft"
        :class="{ on: trims }"
        :aria-pressed="trims"
        title="Start at 0, and write a change of what is there"
        @click="riding.set(parameterId, { trim: !trims })"
      >
        trim
      </button>
      <button
        v-if="controller.on"
        class="link soft"
        :title="
          controller.knobOf(parameterId)
            ? `Ridden by controller ${controller.knobOf(parameterId)}`
            : 'Move a control of yours to ride this with it'
        "
        @click="controller.learning = controller.learning === parameterId ? null : parameterId"
      >
        {{ controller.learning === parameterId ? 'move it now' : (controller.knobOf(parameterId) ?? 'learn') }}
      </button>
    </footer>
    <p v-if="groups" class="out-of-sight">{{ groups }} adds to it</p>
  </section>
</template>

<style scoped>
.column {
  display: grid;
  grid-template: auto auto auto minmax(0, 1fr) auto auto / minmax(0, 1fr);
  width: 102px;
  flex: none;
  padding: 4px 7px;
  border-right: 1px solid var(--line);
}
header {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  font-size: 12px;
  line-height: 15px;
}
header > :not(button) {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
header b {
  grid-column: 1 / -1;
}
.digit {
  min-width: 15px;
  padding: 0 2px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: none;
  font-size: 11px;
  line-height: 13px;
  color: var(--soft);
  cursor: pointer;
}
.digit.on {
  background: var(--ink);
  border-color: var(--ink);
  color: var(--on-ink);
}
.value {
  font-size: 17px;
  font-weight: 600;
  line-height: 27px;
  white-space: nowrap;
}
.value.long {
  font-size: 14px;
}
.value.fresh {
  color: var(--fresh);
}
.rule {
  position: relative;
  min-height: 56px;
  margin: 4px 0;
  border-left: 1px solid var(--bracket);
  background: repeating-linear-gradient(to top, var(--quiet-line) 0 1px, transparent 1px 10%);
  cursor: ns-resize;
  touch-action: none;
}
.rule i {
  position: absolute;
  left: 0;
  pointer-events: none;
}
.mark {
  width: 6px;
  border-top: 1px solid var(--bracket);
}
.mark small {
  position: absolute;
  left: 9px;
  top: -7px;
  font: 10px/13px var(--mono);
  color: var(--soft);
  white-space: nowrap;
}
.lowest small {
  top: -14px;
}
.stands {
  width: 100%;
  border-top: 2px solid var(--ink);
}
.stands::after {
  content: '';
  position: absolute;
  right: 0;
  top: -5px;
  width: 8px;
  height: 8px;
  background: var(--ink);
  transform: rotate(45deg);
}
.held.writes .stands,
.held.writes .stands::after {
  border-color: var(--fresh);
}
.held.writes .stands::after {
  background: var(--fresh);
}
.lane {
  width: 100%;
  border-top: 1px dashed var(--pencil);
}
.drives {
  display: flex;
  justify-content: space-between;
  gap: 4px;
  font-size: 11px;
  line-height: 14px;
  white-space: nowrap;
}
.drives span {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
footer {
  display: flex;
  align-items: center;
  gap: 6px;
  font-size: 12px;
}
.mode {
  flex: 1;
  min-width: 0;
}
.on {
  color: var(--ink);
  font-weight: 700;
}
.off {
  display: none;
}
.column:hover .off,
.column:focus-within .off {
  display: revert;
}
</style>
