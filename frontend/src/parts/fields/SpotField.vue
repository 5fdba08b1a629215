<script setup lang="ts">
// A line of a sheet for a place in time: typed, taken from the cursor, or as it is while nothing else is said.
import { calledOf, ownName, type FieldName } from '../../lib/fields'
import { useBench } from '../../state/bench'
import { useSession } from '../../state/session'
import TypedField from './TypedField.vue'

defineProps<{
  of: FieldName
  label?: string
  /** What it is called to who does not see the sheet. */
  asks?: string
  /** Where it is as long as nothing is said, in beats, and what that is called: the same place, or the cursor. */
  usual: number
  none: 'same place' | 'the cursor'
  /** Where a hand holds it just now. */
  held?: number | null
  /** Whether the cursor is offered beside the same place. */
  cursor?: boolean
}>()
const session = useSession()
const bench = useBench()
const at = defineModel<number | null>({ required: true })
</script>

<template>
  <div class="field" :data-field="ownName(of)">
    <span>{{ label ?? calledOf(of) }}</span>
    <span class="pair">
      <TypedField
        :label="asks ?? label ?? calledOf(of)"
        kind="position"
        :text="session.position(held ?? at ?? usual)"
        @read="(beat) => (at = beat)"
      />
      <span v-if="(held ?? at) === null" class="soft">{{ none }}</span>
      <button v-else class="link soft" type="button" @click="at = null">{{ none }}</button>
      <button v-if="cursor" class="link soft" type="button" @click="at = bench.cursor">the cursor</button>
    </span>
  </div>
</template>
