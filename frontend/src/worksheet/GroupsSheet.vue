<script setup lang="ts">
// Groups: fold their moves into members, gather what members share, take tracks in or let them go, make and dissolve them.
import { computed, ref, watch } from 'vue'
import type { AnyRequest, TrackOut } from '../api/client'
import { usePreview, usePreviewOf } from '../state/preview'
import { useSelection } from '../state/selection'
import { useSession } from '../state/session'
import Setting from '../parts/fields/Setting.vue'
import { setUp } from '../state/setUps'
import ChoiceField from '../parts/fields/ChoiceField.vue'
import RangeField from '../parts/fields/RangeField.vue'

const session = useSession()
const selection = useSelection()
const preview = usePreview()
const part = setUp<'fold' | 'gather' | 'members' | 'make' | 'dissolve'>('groups.part', 'fold')
const groups = computed(() => (session.data?.tracks ?? []).filter((t) => t.kind === 'group'))
/** The group of what is chosen on the bench: the chosen one itself, else one above it, else the first. */
const near = computed(() => {
  const tracks = new Set(selection.lanes.map((id) => session.lanes.get(id)?.track))
  const own = groups.value.find((g) => tracks.has(g.id))
  return (own ?? groups.value.find((g) => g.member_ids.some((m) => tracks.has(m))) ?? groups.value[0])?.id ?? ''
})
const wanted = setUp<string | null>('groups.wanted', null)
const also = setUp('groups.also', false)
const members = setUp<string[]>('groups.members', [])
const what = setUp('groups.what', '')
const takeIn = setUp<string[]>('groups.takeIn', [])
const letGo = setUp<string[]>('groups.letGo', [])
const stays = setUp<'stays' | 'changes'>('groups.stays', 'stays')
const accept = ref(false)
const within = setUp('groups.within', 0)
const name = setUp('groups.name', '')
const founding = setUp<string[]>('groups.founding', [])
const group = computed(() => {
  const all = groups.value
  return all.find((g) => g.id === wanted.value) ?? all.find((g) => g.id === near.value)
})
watch([() => group.value?.id, part], () => {
  members.value = letGo.value = takeIn.value = []
  what.value = ''
  within.value = 0
  accept.value = also.value = false
})
// What was applied is so: who is in the group now cannot come in, and who is not cannot go.
watch(
  () => group.value?.member_ids.join('\n'),
  () => {
    const mine = group.value?.member_ids ?? []
    members.value = members.value.filter((id) => mine.includes(id))
    letGo.value = letGo.value.filter((id) => mine.includes(id))
    takeIn.value = takeIn.value.filter((id) => !mine.includes(id))
  },
  { immediate: true },
)
/** The groups that the chosen one is a member of, by way of others too. */
const above = computed(() => {
  const found: TrackOut[] = []
  const todo = group.value ? [group.value.id] : []
  for (const id of todo)
    for (const g of groups.value)
      if (g.member_ids.includes(id) && !found.includes(g)) {
        found.push(g)
        todo.push(g.id)
      }
  return found
})
const nameOf = (id: string) => session.tracks.get(id)?.name ?? id
const asOptions = (ids: string[]) => ids.map((id) => ({ value: id, label: nameOf(id) }))
const mine = computed(() => asOptions(group.value?.member_ids ?? []))
const others = computed(() =>
  asOptions(
    (session.data?.tracks ?? [])
      .filter((t) => t.id !== group.value?.id && !group.value?.member_ids.includes(t.id) && !above.value.includes(t))
      .filter((t) => t.parameters.some((p) => p.family === 'level'))
      .map((t) => t.id),
  ),
)
const span = computed(() => ({ start: selection.range?.start ?? null, end: selection.range?.end ?? null }))

const draft = computed<AnyRequest>(() => {
  const id = group.value?.id ?? ''
  if (part.value === 'fold') {
    const all = [id, ...(also.value ? above.value.map((g) => g.id) : [])].filter(Boolean)
    const whole = members.value.length ? { start: null, end: null } : span.value
    const how = { set_to_read: false, accept: accept.value, within: within.value }
    return { verb: 'fold', groups: all, ...whole, members: members.value, ...how }
  }
  if (part.value === 'gather') {
    const which = what.value ? ({ what: 'member', member: what.value } as const) : ({ what: 'common', member: '' } as const)
    return {
      verb: 'gather',
      group: id,
      ...span.value,
      ...which,
      members: members.value,
      set_to_read: false,
      accept: accept.value,
      within: within.value,
    }
  }
  const keeping = { heard: stays.value, set_to_read: false, accept: accept.value }
  if (part.value === 'make') return { verb: 'make group', name: name.value, members: founding.value }
  if (part.value === 'dissolve') return { verb: 'dissolve group', group: id, ...keeping }
  return { verb: 'change group', group: id, take_in: takeIn.value, let_go: letGo.value, ...keeping }
})
const asks = computed(() => {
  if (part.value === 'make') return !!name.value.trim() && founding.value.length > 0
  return !!group.value && (part.value !== 'members' || takeIn.value.length + letGo.value.length > 0)
})
/** Tracks that a new group may have: the ones of the chosen lanes to begin with. */
const able = computed(() =>
  asOptions((session.data?.tracks ?? []).filter((t) => t.parameters.some((p) => p.family === 'level')).map((t) => t.id)),
)
watch(part, (now) => {
  if (now !== 'make' || founding.value.length) return
  const chosen = new Set(selection.lanes.map((id) => session.lanes.get(id)?.track))
  founding.value = able.value.map((t) => t.value).filter((id) => chosen.has(id))
})
// A group that was made is there now, and the next one is another.
watch(
  () => preview.spent,
  (now) => {
    if (now?.request.verb !== 'make group') return
    name.value = ''
    founding.value = []
  },
)
const hint = computed(() => {
  if (part.value === 'make') return founding.value.length ? 'Give the group a name.' : 'Choose who is in it.'
  if (!groups.value.length) return 'There is no group in this session.'
  return part.value === 'members' && !asks.value ? 'Choose who comes in or goes.' : ''
})
usePreviewOf(
  computed(() => (asks.value ? draft.value : null)),
  () => hint.value,
  draft,
)
const refused = computed(() => preview.problem?.code === 'heard-differs')
</script>

<template>
  <form class="form" @submit.prevent>
    <fieldset class="head">
      <ChoiceField
        v-model="part"
        data-field="what"
        :choices="[
          { value: 'fold', words: 'fold into members' },
          { value: 'gather', words: 'gather from members' },
          { value: 'members', words: 'who is in it' },
          { value: 'make', words: 'make one' },
          { value: 'dissolve', words: 'dissolve' },
        ]"
        bare
        asks="What to do with a group"
      />
    </fieldset>
    <fieldset>
      <legend>What</legend>
      <template v-if="part === 'make'">
        <Setting v-model="name" of="make group/name" asks="The group’s name" />
        <Setting v-model="founding" of="make group/members" asks="Who is in the group" :options="able" none="choose tracks" />
        <p class="soft">Its fader stands at 0 dB, so that what is heard stays.</p>
      </template>
      <Setting
        v-else
        :model-value="group?.id ?? ''"
        of="change group/group"
        data-field="groups group"
        none="no group here"
        :options="asOptions(groups.map((g) => g.id))"
        @update:model-value="(id) => (wanted = id)"
      />
      <div v-if="part === 'fold' && above.length" class="field" data-field="groups">
        <ElCheckbox v-model="also" :label="`and all above it: ${above.map((g) => g.name).join(', ')}`" size="small" />
      </div>
      <RangeField v-if="part === 'gather' || (part === 'fold' && !members.length)" data-field="start end" />
      <p v-if="group && part !== 'make'" class="soft">
        {{ group.members.length ? `In it: ${group.members.join(', ')}.` : 'Nobody is in it.' }}
      </p>
    </fieldset>
    <fieldset>
      <legend v-if="part !== 'make'">How</legend>
      <template v-if="part === 'fold'">
        <Setting
          v-model="members"
          of="fold/members"
          label="Into"
          asks="Members who leave the group"
          :options="mine"
          none="all members, who stay"
        />
        <p class="soft">
          {{
            members.length
              ? 'They take over what the group adds, everywhere, and leave it.'
              : 'Members take over what the group adds, and it goes to 0 dB there.'
          }}
        </p>
      </template>
      <template v-else-if="part === 'gather'">
        <Setting
          v-model="what"
          of="gather/member"
          data-field="what"
          label="What goes up"
          :options="[{ value: '', label: 'what all share' }, ...mine.map((m) => ({ ...m, label: `what ${m.label} does` }))]"
        />
        <Setting
          v-if="!what"
          v-model="members"
          of="gather/members"
          data-field="what"
          asks="Members that are looked at"
          :options="mine"
          none="all members"
        />
        <p class="soft">Every member keeps the rest, so that what is heard stays.</p>
      </template>
      <template v-else-if="part === 'members'">
        <Setting v-model="takeIn" of="change group/take_in" asks="Tracks that come in" :options="others" none="nobody" />
        <Setting v-model="letGo" of="change group/let_go" asks="Members that go" :options="mine" none="nobody" />
      </template>
      <p v-else-if="part === 'dissolve'" class="soft">
        The group goes with its lanes; its members take its place in the groups above it.
      </p>
      <template v-if="part === 'members' || part === 'dissolve'">
        <Setting v-model="stays" of="change group/heard" />
      </template>
      <Setting
        v-if="part === 'fold' || part === 'gather'"
        :model-value="within || null"
        of="fold/within"
        asks="Thinned within, in dB"
        none="not at all"
        @update:model-value="(n) => (within = n ?? 0)"
      />
      <Setting v-if="part !== 'make' && (refused || accept)" v-model="accept" of="fold/accept" data-field="groups group" tick />
    </fieldset>
  </form>
</template>

<style scoped>
.field :deep(.el-select),
.field :deep(.chooser) {
  width: 186px;
}
.field :deep(.words.long) {
  width: 186px;
}
</style>
