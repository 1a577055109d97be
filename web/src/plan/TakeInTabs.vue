<script setup lang="ts">
import { useJob } from '@/job/useJob';

/** The two sides of taking in: what was told, and what to do about it. */
const job = useJob();
</script>

<template>
  <nav class="tabs" aria-label="Take in">
    <RouterLink :to="`/jobs/${job.id.value}/take-in`" exact-active-class="here">As taken in</RouterLink>
    <RouterLink :to="`/jobs/${job.id.value}/take-in/plan`" exact-active-class="here">The plan</RouterLink>
  </nav>
</template>

<style scoped>
.tabs {
  display: flex;
  gap: 6px;
}
a {
  min-height: 44px;
  display: inline-flex;
  align-items: center;
  padding: 0 10px;
  color: var(--ink);
  text-decoration: none;
  border-bottom: 4px solid transparent;
}
a.here {
  font-weight: 700;
  border-bottom-color: var(--act);
}
@media print {
  .tabs {
    display: none;
  }
}
</style>
