<script setup lang="ts">
// Which go of a lane a verb takes from: what is used, or one of its alternatives. Only there where some are kept.
import { computed, watchEffect } from 'vue'
import { useSelection } from '../../state/selection'
import { useSession } from '../../state/session'
import { useWorksheet } from '../../state/worksheet'
import Chooser from '../Chooser.vue'

const session = useSession()
const selection = useSelection()
const worksheet = useWorksheet()
const go = defineModel<string | null>({ required: true })
const options = computed(() => {
  const parameters = [...new Set(selection.lanes.map((id) => session.lanes.get(id)?.parameter ?? ''))]
  const some = parameters.flatMap((p) => session.alternativesOf.get(p) ?? [])
  const several = parameters.length > 1
  return some.map((a) => ({ value: a.id, label: several ? `${a.name}, ${session.parameterName(a.parameter)}` : a.name }))
})
watchEffect(() => {
  if (go.value && !options.value.some((one) => one.value === go.value)) go.value = null
})
</script>

<template>
  <div v-if="options.length" class="field" data-field="alternative">
    <span>Taken from</span>
    <Chooser
      :model-value="go ?? ''"
      label="Which alternative it is taken from"
      none="what is used"
      :options="[{ value: '', label: 'what is used' }, ...options]"
      :upwards="worksheet.folded"
      @update:model-value="(id) => (go = id || null)"
    />
  </div>
</template>
