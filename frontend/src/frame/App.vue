<script setup lang="ts">
// The whole screen.
</script>

<template>
  <RouterView />
</template>
