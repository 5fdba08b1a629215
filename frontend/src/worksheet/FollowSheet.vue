<script setup lang="ts">
// Follow: what a sound or a lane does drives parameters; which numbers are asked depends on what it does.
import { computed } from 'vue'
import type { AnyRequest } from '../api/client'
import BoundFields from '../parts/fields/BoundFields.vue'
import Setting from '../parts/fields/Setting.vue'
import ChoiceField from '../parts/fields/ChoiceField.vue'
import NumberField from '../parts/fields/NumberField.vue'
import RangeField from '../parts/fields/RangeField.vue'
import RecipeField from '../parts/fields/RecipeField.vue'
import Chooser from '../parts/Chooser.vue'
import { useFollowing, type FollowRequest } from '../state/following'
import { usePreviewOf } from '../state/preview'
import { useReopened } from '../state/reopened'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import { fieldOf, inBeats } from '../lib/fields'
import { setUp } from '../state/setUps'
import { useWorksheet } from '../state/worksheet'

const NO_GRID = { beats: 0, text: 'none' }
const session = useSession()
const selection = useSelection()
const worksheet = useWorksheet()
const following = useFollowing()
const does = setUp<FollowRequest['does']>('follow.does', 'follows')
const tracks = setUp<string[]>('follow.tracks', [])
const lane = setUp<string>('follow.source', '')
const of = setUp<'sound' | 'lane'>('follow.of', 'sound')
const targets = setUp<string[]>('follow.targets', [])
const afterLevel = setUp('follow.after', false)
const measure = setUp<FollowRequest['measure']>('follow.measure', 'mean')
const upsideDown = setUp('follow.upside', false)
const instead = setUp('follow.instead', false)
const ends = setUp<Record<string, number | null>>('follow.ends', {})
const bounds = setUp<Record<string, number>>('follow.bounds', {})
const delay = setUp('follow.delay', inBeats(0))
const grid = setUp('follow.grid', NO_GRID)

type Name =
  | 'window' | 'attack' | 'release' | 'hold' | 'lookahead' | 'threshold' | 'depth' | 'ratio' | 'knee' | 'hysteresis' | 'least'
  | 'to' | 'band' | 'most' | 'smooth' | 'slope' // prettier-ignore
/** The numbers of each way. */
const OF: Record<FollowRequest['does'], Name[]> = {
  follows: ['attack', 'release', 'hold', 'lookahead', 'window'],
  'makes room': ['threshold', 'depth', 'attack', 'hold', 'release', 'ratio', 'knee', 'lookahead', 'window'],
  opens: ['threshold', 'hysteresis', 'least', 'lookahead', 'window', 'attack', 'release'],
  'evens out': ['to', 'band', 'most', 'threshold', 'window', 'attack', 'release'],
  lags: ['smooth', 'slope'],
}
/** What is usual for a way where that is not what is usual for all. */
const USUAL: Partial<Record<FollowRequest['does'], Partial<Record<Name, number>>>> = {
  'makes room': { window: 50, attack: 20, hold: 150, release: 300 },
  opens: { window: 50, least: 200 },
  'evens out': { window: 1000, attack: 50, release: 50, threshold: -50, band: 2, most: 12 },
}
const usualOf = (name: Name) => (fieldOf(`follow/${name}`).usual as number | undefined) ?? null
const usual = (name: Name): number | null => {
  const of = source.value
  if (name === 'threshold' && of) return Math.round((of.low + of.high) * 5) / 10
  return USUAL[does.value]?.[name] ?? usualOf(name)
}
/** What a level of the source is said in. */
const unitOf = (name: Name) => (name === 'threshold' || name === 'hysteresis' ? source.value?.unit : undefined)
const numbers = setUp<Record<string, number | null>>('follow.numbers', {})
const key = (name: Name) => `${does.value} ${name === 'threshold' && source.value ? lane.value : ''}${name}`
const number = (name: Name) => (key(name) in numbers.value ? numbers.value[key(name)]! : usual(name))
const setNumber = (name: Name, value: number | null) => (numbers.value = { ...numbers.value, [key(name)]: value })
/** Where each target's lane lives: on the track, or in a region. */
const homes = setUp<Record<string, string>>('follow.homes', {})
const homesOf = (parameter: string) => {
  const track = session.parameters.get(parameter)?.track
  const regions = (track?.regions ?? []).map((r) => ({ value: r.id, label: `in ${r.name}` }))
  return [{ value: 'track', label: 'on the track' }, ...regions]
}
const homeOf = (parameter: string) => {
  const home = homes.value[parameter]
  return homesOf(parameter).some((h) => h.value === home) ? home! : 'track'
}

function takeUp(again: FollowRequest): void {
  does.value = again.does
  of.value = again.source == null ? 'sound' : 'lane'
  tracks.value = again.tracks
  lane.value = again.source ?? ''
  targets.value = again.targets.map((t) => t.parameter)
  homes.value = Object.fromEntries(again.targets.map((t) => [t.parameter, t.home]))
  const sides = again.targets.flatMap((t) => [
    [`${t.parameter} low`, t.low ?? null],
    [`${t.parameter} high`, t.high ?? null],
  ])
  ends.value = Object.fromEntries([...sides, ['source low', again.low ?? null], ['source high', again.high ?? null]])
  afterLevel.value = again.after_level
  measure.value = again.measure
  upsideDown.value = again.upside_down
  instead.value = again.instead
  bounds.value = Object.fromEntries(again.within.map((w) => [w.unit, w.amount]))
  delay.value = inBeats(again.delay)
  grid.value = again.grid ? inBeats(again.grid) : NO_GRID
  const said = Object.fromEntries(OF[again.does].map((name) => [key(name), again[name] ?? null]))
  numbers.value = { ...numbers.value, ...said }
}
/** A threshold that is dragged on a strip. */
following.onThreshold((value) => setNumber('threshold', value))

const trackOptions = computed(() =>
  (session.data?.tracks ?? []).filter((t) => t.kind !== 'group').map((t) => ({ value: t.id, label: t.name })),
)
const parameterOptions = computed(() =>
  [...session.parameters.values()].map((p) => ({
    value: p.parameter.id,
    label: `${p.track.name} ${p.parameter.name}`,
  })),
)
const laneOptions = computed(() => parameterOptions.value.filter((p) => session.lanesOf.has(p.value)))
const bySound = computed(() => does.value === 'evens out' || (of.value === 'sound' && does.value !== 'lags'))
const levels = computed(() => does.value === 'makes room' || does.value === 'evens out')
const driven = computed(() => targets.value.flatMap((id) => session.parameters.get(id)?.parameter ?? []))
const source = computed(() => (bySound.value ? undefined : session.parameters.get(lane.value)?.parameter))
useReopened('follow', takeUp)
const endOf = (id: string, side: 'low' | 'high') => ends.value[`${id} ${side}`] ?? null
const setEnd = (id: string, side: 'low' | 'high', value: number | null) =>
  (ends.value = { ...ends.value, [`${id} ${side}`]: value })

const draft = computed<FollowRequest>(() => {
  const n = (name: Name): number => (OF[does.value].includes(name) ? number(name) : usualOf(name)) ?? 0
  return {
    verb: 'follow',
    does: does.value,
    tracks: bySound.value ? tracks.value : [],
    source: bySound.value ? null : lane.value || null,
    targets: targets.value.map((parameter) => ({
      parameter,
      low: levels.value ? null : endOf(parameter, 'low'),
      high: levels.value ? null : endOf(parameter, 'high'),
      home: homeOf(parameter),
    })),
    start: selection.range?.start ?? null,
    end: selection.range?.end ?? null,
    after_level: afterLevel.value,
    measure: measure.value,
    window: n('window'),
    low: levels.value ? null : endOf('source', 'low'),
    high: levels.value ? null : endOf('source', 'high'),
    upside_down: upsideDown.value,
    attack: n('attack'),
    release: n('release'),
    hold: n('hold'),
    lookahead: n('lookahead'),
    threshold: n('threshold'),
    depth: n('depth'),
    ratio: does.value === 'makes room' ? number('ratio') : null,
    knee: n('knee'),
    hysteresis: n('hysteresis'),
    least: n('least'),
    to: n('to'),
    band: n('band'),
    most: n('most'),
    delay: delay.value.beats,
    smooth: n('smooth'),
    grid: does.value === 'lags' && grid.value.beats ? grid.value.beats : null,
    slope: does.value === 'lags' ? number('slope') : null,
    instead: instead.value,
    within: Object.entries(bounds.value).map(([unit, amount]) => ({ unit, amount })),
    set_to_read: false,
  }
})
const request = computed<AnyRequest | null>(() => {
  const follows = bySound.value ? tracks.value.length : lane.value
  return follows && targets.value.length ? draft.value : null
})
const hint = () => {
  const follows = bySound.value ? tracks.value.length : lane.value
  if (!follows) return bySound.value ? 'Choose the track whose sound is followed.' : 'Choose the lane that is followed.'
  return 'Choose what it drives.'
}
usePreviewOf(request, hint, draft)
following.show(request)
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset>
      <legend>What</legend>
      <Setting v-model="does" data-field="does what" of="follow/does" bare />
      <ChoiceField
        v-if="does !== 'lags' && does !== 'evens out'"
        v-model="of"
        data-field="tracks source"
        :choices="[
          { value: 'sound', words: 'a sound' },
          { value: 'lane', words: 'a lane' },
        ]"
        label="Follows"
        asks="What is followed"
      />
      <Setting
        v-if="bySound"
        v-model="tracks"
        of="follow/tracks"
        asks="Tracks that are followed"
        :options="trackOptions"
        none="choose a track"
      />
      <Setting
        v-else
        v-model="lane"
        of="follow/source"
        asks="The lane that is followed"
        none="choose a lane"
        :options="laneOptions"
      />
      <Setting
        v-model="targets"
        of="follow/targets"
        asks="Parameters that are driven"
        :options="parameterOptions"
        none="choose a parameter"
      />
      <template v-if="!levels">
        <div v-for="p in driven" :key="p.id" class="field" data-field="targets">
          <span>{{ session.parameterName(p.id) }}</span>
          <span class="pair">
            <NumberField
              :label="`Low of ${session.parameterName(p.id)}`"
              :value="endOf(p.id, 'low')"
              none="lowest"
              @read="(v) => setEnd(p.id, 'low', v)"
              @empty="setEnd(p.id, 'low', null)"
            />
            to
            <NumberField
              :label="`High of ${session.parameterName(p.id)}`"
              :value="endOf(p.id, 'high')"
              none="highest"
              @read="(v) => setEnd(p.id, 'high', v)"
              @empty="setEnd(p.id, 'high', null)"
            />
            {{ p.unit }}
          </span>
        </div>
      </template>
      <template v-for="p in driven" :key="`${p.id} home`">
        <div v-if="homesOf(p.id).length > 1" class="field" data-field="targets">
          <span>{{ session.parameterName(p.id) }} lives</span>
          <Chooser
            :model-value="homeOf(p.id)"
            :label="`Where ${session.parameterName(p.id)} lives`"
            none="on the track"
            :options="homesOf(p.id)"
            :upwards="worksheet.folded"
            @update:model-value="(home) => (homes = { ...homes, [p.id]: home })"
          />
        </div>
      </template>
      <RangeField data-field="start end" />
    </fieldset>
    <fieldset>
      <legend><span>How</span> <RecipeField verb="follow" :request="request" /></legend>
      <template v-if="bySound">
        <Setting v-model="afterLevel" of="follow/after_level" />
        <Setting v-model="measure" of="follow/measure" />
      </template>
      <div v-if="does === 'follows' || (does === 'lags' && source)" class="field" data-field="low high">
        <span>Of the source</span>
        <span class="pair">
          <NumberField
            label="Low of the source"
            :value="endOf('source', 'low')"
            :none="bySound ? '−48' : 'lowest'"
            @read="(v) => setEnd('source', 'low', v)"
            @empty="setEnd('source', 'low', null)"
          />
          to
          <NumberField
            label="High of the source"
            :value="endOf('source', 'high')"
            :none="bySound ? '−6' : 'highest'"
            @read="(v) => setEnd('source', 'high', v)"
            @empty="setEnd('source', 'high', null)"
          />
          {{ bySound ? 'dB' : (source?.unit ?? '') }}
        </span>
      </div>
      <Setting
        v-for="name in OF[does]"
        :key="name"
        :model-value="number(name)"
        :of="`follow/${name}`"
        :none="usual(name) === null ? 'none' : undefined"
        :usual="usual(name)"
        :unit="unitOf(name)"
        @update:model-value="(v) => setNumber(name, v)"
      />
      <template v-if="does === 'lags'">
        <Setting v-model="delay" of="follow/delay" :start="selection.range?.start" />
        <Setting v-model="grid" of="follow/grid" none="none" />
      </template>
      <Setting v-if="!levels" v-model="upsideDown" of="follow/upside_down" />
      <Setting v-else v-model="instead" of="follow/instead" />
      <BoundFields v-model="bounds" :parameters="driven" label="In the fewest points within" />
    </fieldset>
  </form>
</template>
