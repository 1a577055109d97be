<script setup lang="ts">
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { Stage } from '@/api/types';
import { useJob } from '@/job/useJob';
import { pathOf } from '@/plan/pathOf';
import { useKeys } from '@/shell/useKeys';
import { stage as stageOf } from '@/words';
import { useSheetForms } from './useSheetForms';
import { continuePlan } from '@/sheet/words';

/** The checks of a stage that mean something on this fuel system, side by side. */
const props = defineProps<{ stage: Stage }>();
const job = useJob();
const forms = useSheetForms();
/** What a check found, as a mark of its own: a fault is never a quiet dot. */
const FOUND = { open: '', clear: '✓', hint: '?', fault: '!' } as const;
const SAYS = { open: '', clear: 'no fault found', hint: 'look closer', fault: 'fault found' } as const;
const said = (id: string) => job.view.value?.plan.steps.find((one) => one.id === id)?.found ?? 'open';
/** The one next step, as board, plan and Decide name it, unless it is the one in sight. */
const route = useRoute();
const router = useRouter();
const next = computed(() => {
  const view = job.view.value;
  if (!view) return undefined;
  const planned = view.plan.steps.find((one) => one.id === view.step.step);
  const stage = `/jobs/${job.id.value}/${stageOf(view.step.stage).path}`;
  const to = planned ? pathOf(planned, job.id.value) : stage;
  return to === route.path ? undefined : { title: view.step.title, to };
});
useKeys([
  {
    key: 'g',
    word: continuePlan,
    run: () => void (next.value && router.push(next.value.to)),
  },
]);
const links = computed(() => {
  const base = `/jobs/${job.id.value}/${stageOf(props.stage).path}`;
  const fits = job.view.value?.fits ?? [];
  const checks = (forms.data.value ?? [])
    .filter((form) => form.stage === props.stage && fits.includes(form.id))
    .map((form) => ({ to: `${base}/${form.id}`, word: form.short, said: said(form.id) }));
  if (props.stage !== 'on_engine')
    return [...checks, { to: `${base}/notes`, word: 'Notes', said: 'open' as const }];
  const returned = { to: base, word: 'Return test', said: said('return_test') };
  const alone = job.view.value?.file.job.intake.layout.cylinders === 1;
  const swap = { to: `${base}/swap`, word: 'Swap', said: said('swap') };
  // A single injector has none to change places with.
  return [...(job.view.value?.has_return ? [returned] : []), ...checks, ...(alone ? [] : [swap])];
});
</script>

<template>
  <nav class="checks" aria-label="Checks of this stage">
    <RouterLink v-for="link in links" :key="link.to" :to="link.to" exact-active-class="here"
      >{{ link.word
      }}<span v-if="link.said !== 'open'" class="found" :class="link.said" :aria-label="SAYS[link.said]">{{
        FOUND[link.said]
      }}</span></RouterLink
    >
    <RouterLink v-if="next" class="next" :to="next.to">
      Next: {{ next.title }} <span class="key">G</span>
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
.found {
  margin-left: 5px;
  min-width: 1.3em;
  text-align: center;
  font-weight: 700;
  border: 2px solid var(--edge);
  border-radius: 5px;
  font-size: 0.8rem;
  line-height: 1.3;
}
.fault {
  background: var(--too-much);
  border-color: var(--too-much);
  color: var(--sheet);
}
.hint {
  border-color: var(--look);
}
a.here {
  font-weight: 700;
  border-bottom-color: var(--act);
}
</style>
