<script setup lang="ts">
// One lane in the ledger: pin, name, small curve, points. A click goes to it; the ring pins and unpins.
import { computed } from 'vue'
import type { LaneOut } from '../api/client'
import { useBench } from '../state/bench'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { brief } from '../lib/words'
import Spark from '../parts/Spark.vue'

const props = defineProps<{ lane: LaneOut; owner?: boolean; wide?: boolean; stop?: boolean }>()
const emit = defineEmits<{ choose: [byKey: boolean] }>()
const session = useSession()
const selection = useSelection()
const bench = useBench()

const parameter = computed(() => session.parameters.get(props.lane.parameter)!.parameter)
const pinned = computed(() => bench.pins.includes(props.lane.parameter))
const chosen = computed(() => selection.lanes.includes(props.lane.id))
/** The region it is in; of those that are called alike with the bar where it starts. */
const home = computed(() => {
  if (!session.twins.has(props.lane.home)) return `in ${props.lane.home_name}`
  const [bar] = session.position(session.regions.get(props.lane.home)!.region.start).split('.')
  return `bar ${bar}, ${props.lane.home_name}`
})
/** What is found of the lane, in words. */
const found = computed(() => props.lane.findings.map((f) => `, ${f.kind}: ${f.words}`).join(''))
const note = computed(
  () =>
    session.noteOn('lane', props.lane.id) ||
    (props.lane.home === 'track' ? session.noteOn('parameter', props.lane.parameter) : ''),
)
const about = computed(() => `${parameter.value.family}${props.lane.home_name ? '' : ', on the track'}${found.value}`)
const said = computed(() => {
  const home = props.lane.home_name ? `in ${props.lane.home_name}` : 'on the track'
  return `${parameter.value.name}, ${parameter.value.family}, ${home}, ${props.lane.points} points${found.value}${note.value ? `; note: ${note.value}` : ''}`
})
</script>

<template>
  <div class="line" :class="{ chosen }">
    <button
      class="pin"
      :class="[`ink-${lane.spark.family}`, { on: pinned }]"
      tabindex="-1"
      :aria-pressed="pinned"
      :aria-label="`${pinned ? 'Unpin' : 'Pin'} ${session.laneName(lane.id)}`"
      @click="bench.togglePin(lane.parameter)"
    />
    <button
      class="plain-button name"
      :data-lane="lane.id"
      data-stop
      :tabindex="stop ? 0 : -1"
      :title="said"
      @click="emit('choose', $event.detail === 0)"
    >
      <span class="text" :class="{ odd: lane.findings.some((f) => f.kind === 'not heard') }"
        ><small v-if="owner" class="owner">{{ session.tracks.get(lane.track)?.name }} </small>{{ parameter.name
        }}<small v-if="lane.home_name" class="home">{{ home }}</small
        ><small v-if="note" class="home noted"> “{{ note }}”</small></span
      >
      <small v-if="wide" class="reach number soft">{{ lane.range_text }}</small>
      <Spark :picture="lane.spark" :width="92" :height="16" />
      <span class="number soft count"
        >{{ brief(lane.points) }}<span class="out-of-sight"> points, {{ about }}</span></span
      >
    </button>
  </div>
</template>

<style scoped>
.line {
  display: flex;
  align-items: center;
  height: 22px;
  padding-left: 12px;
}
.line:hover {
  background: var(--hover);
}
.line.chosen {
  background: var(--sand-deep);
}
.pin {
  width: 11px;
  height: 11px;
  flex: none;
  padding: 0;
  border: 1.5px solid currentcolor;
  border-radius: 50%;
  background: var(--sheet);
  cursor: pointer;
}
.pin.on {
  background: currentcolor;
}
.name {
  flex: 1;
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
  height: 100%;
  padding: 0 12px 0 8px;
}
.text {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.text small {
  color: var(--soft);
  font-size: 11px;
}
.text .home {
  margin-left: 5px;
}
.text .owner {
  margin-right: 4px;
}
.odd {
  text-decoration: underline wavy;
  text-decoration-color: var(--pencil);
  text-decoration-thickness: 1px;
  text-underline-offset: 3px;
}
.reach {
  flex: none;
  max-width: 50%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.count {
  width: 4ch;
  text-align: right;
  font-size: 12px;
}
</style>
