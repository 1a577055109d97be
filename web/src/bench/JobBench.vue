<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { ask } from '@/api/client';
import { useJob } from '@/job/useJob';
import BenchRows from './BenchRows.vue';

/** The bench stage of a job: the sessions in which its injectors hung. */
const job = useJob();
const sessions = useQuery({
  queryKey: computed(() => ['benches', 'of', job.id.value]),
  queryFn: () => ask('get', '/api/bench', { params: { query: { job: job.id.value, per_page: 60 } } }),
});
const lines = computed(() => sessions.data.value?.lines ?? []);
</script>

<template>
  <main class="of-job">
    <div class="head">
      <h1>Bench session</h1>
      <RouterLink class="main-act" :to="`/bench/new?job=${job.id.value}`">Start a bench session</RouterLink>
      <RouterLink class="side-act" :to="`/jobs/${job.id.value}/bench/notes`">Notes</RouterLink>
    </div>
    <BenchRows v-if="lines.length" :lines="lines" />
    <p v-else class="muted none">
      No bench session for this job yet. A session takes the injectors of one job or several, and keeps every
      round: as received, cleaned, adjusted, final.
    </p>
  </main>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 12px;
  padding: 18px 22px 10px;
}
.head h1 {
  margin-right: auto;
}
.none {
  padding: 0 22px;
  max-width: 700px;
}
</style>
