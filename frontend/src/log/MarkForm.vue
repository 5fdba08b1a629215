<script setup lang="ts">
// A name for a revision, and some words.
import { onMounted, ref } from 'vue'
import type { MarkOut } from '../api/client'

const props = defineProps<{ mark: MarkOut | undefined }>()
const emit = defineEmits<{ keep: [name: string, note: string]; leave: [] }>()
const name = ref(props.mark?.name ?? '')
const note = ref(props.mark?.note ?? '')
const field = ref<HTMLInputElement | null>(null)
onMounted(() => field.value?.focus())
</script>

<template>
  <form class="mark-form" @submit.prevent="name.trim() && emit('keep', name, note)" @keydown.escape.stop="emit('leave')">
    <input ref="field" v-model="name" aria-label="The mark’s name" placeholder="as played on Friday" maxlength="300" />
    <input v-model="note" class="note" aria-label="The mark’s note" placeholder="a note" maxlength="2000" />
    <button class="link" :disabled="!name.trim()">keep</button>
    <button class="link soft" type="button" @click="emit('leave')">leave it</button>
  </form>
</template>

<style scoped>
.mark-form {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding: 6px 0;
}
.note {
  width: 30ch;
}
</style>
