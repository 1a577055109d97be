<script setup lang="ts">
import { computed } from 'vue';
import { useJob } from '@/job/useJob';
import type { SheetId } from '@/api/types';

/** The checks of a stage, side by side. */
const props = defineProps<{ stage: 'electrical' | 'on-engine' }>();
const job = useJob();
const WORD: Record<SheetId, string> = {
  supply: 'Supply',
  coil_resistance: 'Coils',
  pressure_drop: 'Balance',
  cutout: 'Cut-out',
};
const OF: Record<typeof props.stage, SheetId[]> = {
  electrical: ['supply', 'coil_resistance'],
  'on-engine': ['pressure_drop', 'cutout'],
};
const links = computed(() => {
  const base = `/jobs/${job.id.value}/${props.stage}`;
  const fits = job.view.value?.fits ?? [];
  const checks = OF[props.stage]
    .filter((id) => fits.includes(id))
    .map((id) => ({ to: `${base}/${id}`, word: WORD[id] }));
  return props.stage === 'electrical'
    ? [...checks, { to: `${base}/notes`, word: 'Notes' }]
    : [...(job.view.value?.has_return ? [{ to: base, word: 'Return test' }] : []), ...checks];
});
</script>

<template>
  <nav class="checks" aria-label="Checks of this stage">
    <RouterLink v-for="link in links" :key="link.to" :to="link.to" exact-active-class="here">{{
      link.word
    }}</RouterLink>
  </nav>
</template>

<style scoped>
.checks {
  display: flex;
  flex-wrap: wrap;
  gap: 0 6px;
  border-bottom: 1px solid var(--line);
}
a {
  min-height: 44px;
  display: inline-flex;
  align-items: center;
  padding: 0 8px;
  color: var(--ink);
  text-decoration: none;
  border-bottom: 4px solid transparent;
}
a.here {
  font-weight: 700;
  border-bottom-color: var(--act);
}
</style>
