<script setup lang="ts">
import { computed } from 'vue';
import type { Stage } from '@/api/types';
import { useJob } from '@/job/useJob';
import { stage as stageOf } from '@/words';
import { useSheetForms } from './useSheetForms';

/** The checks of a stage that mean something on this fuel system, side by side. */
const props = defineProps<{ stage: Stage }>();
const job = useJob();
const forms = useSheetForms();
const links = computed(() => {
  const base = `/jobs/${job.id.value}/${stageOf(props.stage).path}`;
  const fits = job.view.value?.fits ?? [];
  const checks = (forms.data.value ?? [])
    .filter((form) => form.stage === props.stage && fits.includes(form.id))
    .map((form) => ({ to: `${base}/${form.id}`, word: form.short }));
  if (props.stage !== 'on_engine') return [...checks, { to: `${base}/notes`, word: 'Notes' }];
  return job.view.value?.has_return ? [{ to: base, word: 'Return test' }, ...checks] : checks;
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
