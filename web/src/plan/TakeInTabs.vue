<script setup lang="ts">
import { useJob } from '@/job/useJob';

/** The two sides of taking in: what was told, and what to do about it. */
const job = useJob();
</script>

<template>
  <nav class="side-tabs" aria-label="Take in">
    <RouterLink :to="`/jobs/${job.id.value}/take-in`" exact-active-class="here">Job details</RouterLink>
    <RouterLink :to="`/jobs/${job.id.value}/take-in/plan`" exact-active-class="here">Plan</RouterLink>
  </nav>
</template>
