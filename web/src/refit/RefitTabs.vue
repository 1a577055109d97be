<script setup lang="ts">
import { useJob } from '@/job/useJob';

/** The two sides of refitting: the injector in its bore, and its code in the control unit. */
const job = useJob();
const to = (rest: string) => `/jobs/${job.id.value}/refit${rest}`;
</script>

<template>
  <nav class="side-tabs" aria-label="Refit and code">
    <RouterLink :to="to('')" exact-active-class="here">Fit</RouterLink>
    <RouterLink :to="to('/codes')" exact-active-class="here">Trim codes</RouterLink>
    <RouterLink :to="to('/notes')" exact-active-class="here">Notes</RouterLink>
  </nav>
</template>
