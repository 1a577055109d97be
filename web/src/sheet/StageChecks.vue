<script setup lang="ts">
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { Stage } from '@/api/types';
import { useJob } from '@/job/useJob';
import { pathOf } from '@/plan/pathOf';
import { useKeys } from '@/shell/useKeys';
import { stage as stageOf } from '@/words';
import { useSheetForms } from './useSheetForms';

/** The checks of a stage that mean something on this fuel system, side by side. */
const props = defineProps<{ stage: Stage }>();
const job = useJob();
const forms = useSheetForms();
/** What the plan says of a step: a dot for what was read. */
const said = (id: string) => {
  const step = job.view.value?.plan.steps.find((one) => one.id === id);
  return step?.state === 'done' ? 'read' : '';
};
/** The step that the plan asks for next, unless it is the one in sight. */
const route = useRoute();
const router = useRouter();
const next = computed(() => {
  const plan = job.view.value?.plan;
  const step = plan?.steps.find((one) => one.id === plan.next);
  return step && pathOf(step, job.id.value) !== route.path ? step : undefined;
});
useKeys([
  {
    key: 'g',
    word: 'go on with the plan',
    run: () => void (next.value && router.push(pathOf(next.value, job.id.value))),
  },
]);
const links = computed(() => {
  const base = `/jobs/${job.id.value}/${stageOf(props.stage).path}`;
  const fits = job.view.value?.fits ?? [];
  const checks = (forms.data.value ?? [])
    .filter((form) => form.stage === props.stage && fits.includes(form.id))
    .map((form) => ({ to: `${base}/${form.id}`, word: form.short, said: said(form.id) }));
  if (props.stage !== 'on_engine') return [...checks, { to: `${base}/notes`, word: 'Notes', said: '' }];
  const returned = { to: base, word: 'Return test', said: said('return_test') };
  const swap = { to: `${base}/swap`, word: 'Swap', said: said('swap') };
  return job.view.value?.has_return ? [returned, ...checks, swap] : [...checks, swap];
});
</script>

<template>
  <nav class="checks" aria-label="Checks of this stage">
    <RouterLink v-for="link in links" :key="link.to" :to="link.to" exact-active-class="here"
      >{{ link.word }}<span v-if="link.said" class="read" :title="link.said"> ●</span></RouterLink
    >
    <RouterLink v-if="next" class="next" :to="pathOf(next, job.id.value)">
      To do: {{ next.title }} <span class="key">G</span>
    </RouterLink>
  </nav>
</template>

<style scoped>
.checks {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
  padding: 0 18px;
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
.next {
  margin-left: auto;
  color: var(--act);
  gap: 8px;
}
.read {
  color: var(--inside);
  font-size: 0.6rem;
  padding-left: 4px;
}
a.here {
  font-weight: 700;
  border-bottom-color: var(--act);
}
</style>
