<script setup lang="ts">
import { computed } from 'vue';
import type { JobView } from '@/api/types';
import { moment } from '@/domain/time';

/** What the trail of a job says of itself: closed, opened again, from elsewhere, changed at the counter. */
const props = defineProps<{ view: JobView; report?: boolean }>();
const name = (by: string) => props.view.file.people.find((one) => one.id === by)?.name ?? '';
const shown = computed(
  () =>
    (props.view.closed && !props.report) ||
    props.view.reopened ||
    props.view.imported ||
    props.view.clock.length ||
    props.view.history.length,
);
</script>

<template>
  <aside v-if="shown" aria-label="What happened to the job" class="trail" :class="{ report }">
    <p v-if="view.closed && !report">
      <strong>Closed</strong> by {{ name(view.closed.by) }}, {{ moment(view.closed.at) }}. Nothing can be
      saved until it is
      <RouterLink :to="`/jobs/${view.file.job.id}/prove`">reopened with a reason</RouterLink>.
    </p>
    <p v-if="view.reopened">
      <strong>{{ view.reopened.comeback ? 'Came back' : 'Reopened' }}</strong>: {{ view.reopened.reason }} ({{
        name(view.reopened.signed.by)
      }}, {{ moment(view.reopened.signed.at) }})
    </p>
    <p v-if="view.imported">
      <strong>Imported</strong>, imported by {{ view.imported.name }}, {{ moment(view.imported.at) }}. Its
      signatures were made elsewhere.
    </p>
    <p v-for="step in view.clock" :key="step.before"><strong>Clock</strong>: {{ step.says }}</p>
    <p v-for="step in view.history" :key="step.signed.seq">
      <strong>Job details changed</strong> by {{ name(step.signed.by) }}, {{ moment(step.signed.at)
      }}<template v-if="step.was.length">. Before: {{ step.was.join('; ') }}</template>
    </p>
  </aside>
</template>

<style scoped>
.trail {
  border-left: 6px solid var(--edge);
  background: var(--sheet);
  padding: 4px 16px;
  margin: 0;
  font-size: 0.95rem;
}
.trail p {
  margin: 2px 0;
}
.trail.report {
  background: none;
  padding: 0 0 0 10px;
  border-left-width: 3px;
}
</style>
