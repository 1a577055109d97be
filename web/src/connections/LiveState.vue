<script setup lang="ts">
import type { LiveHandle } from './useLive';
import { ago } from './words';

/** Whether an instrument is heard: the age of what it shows, or why it shows nothing. */
defineProps<{ live: LiveHandle; name: string }>();
</script>

<template>
  <p class="state" :class="{ silent: live.wrong.value }" role="status">
    <span class="lamp" aria-hidden="true"></span>
    <span>
      <strong>{{ name }}</strong>
      <template v-if="live.wrong.value">: {{ live.wrong.value }}</template>
      <template v-else-if="live.heard.value">: reading, {{ ago(live.age.value ?? 0) }}</template>
      <template v-else>: connecting</template>
      <span v-if="live.missed.value && !live.wrong.value" class="muted small"> {{ live.missed.value }}</span>
    </span>
  </p>
</template>

<style scoped>
.state {
  display: flex;
  gap: 10px;
  align-items: baseline;
  min-height: 1.4em;
}
/* A full square reads, a hollow crossed one does not: never colour alone. */
.lamp {
  flex: none;
  width: 14px;
  height: 14px;
  background: var(--inside);
  border: 2px solid var(--inside);
}
.silent .lamp {
  background: linear-gradient(45deg, transparent 44%, var(--too-much) 44% 56%, transparent 56%);
  border-color: var(--too-much);
}
.silent {
  color: var(--too-much);
}
</style>
