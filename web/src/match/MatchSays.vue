<script setup lang="ts">
import type { MatchingView, ShelfView } from '@/api/types';

/** What matching says: refused, at work with how far it is, made; else what is on the shelf. */
defineProps<{ work: MatchingView | undefined; view: ShelfView }>();
</script>

<template>
  <p v-if="work?.state === 'refused'" class="bench-finding wrong" role="alert">{{ work.problem }}</p>
  <p v-else-if="work?.state === 'running'" class="bench-finding" role="status">
    <strong>{{ work.sets }} sets so far</strong>
    <span v-if="work.bound">Up to {{ work.bound }} possible.</span>
    <progress :value="work.done" max="1" aria-label="Matching"></progress>
  </p>
  <p v-else-if="work?.result" class="bench-finding" role="status">
    <strong>{{ work.result.says }}</strong>
  </p>
  <p v-else class="bench-finding">
    <strong>{{ view.total }} on the shelf, {{ view.held_back }} not refitted.</strong>
    <span>Choose what sets must match on, then make them.</span>
  </p>
</template>

<style scoped>
.bench-finding {
  margin: 0;
}
.bench-finding strong {
  font-size: 1.35rem;
}
progress {
  width: 100%;
  height: 14px;
  accent-color: var(--act);
}
</style>
