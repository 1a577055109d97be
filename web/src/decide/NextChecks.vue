<script setup lang="ts">
import { computed } from 'vue';
import type { Judgement, NextCheck } from '@/api/types';
import ComplaintAsk from '@/decide/ComplaintAsk.vue';
import { useJob } from '@/job/useJob';
import { stage } from '@/words';
import { minToRemove } from '@/decide/words';

/** The one next step, then the other checks that would settle something, and what was left out. */
const props = defineProps<{ judgement: Judgement }>();
const job = useJob();
const step = computed(() => props.judgement.step);
const others = computed(() => props.judgement.next.filter((one) => one.id !== step.value.check));
const path = (id: string | null | undefined, fallback: string) => {
  const planned = job.view.value?.plan.steps.find((one) => one.id === id);
  const at = planned ? stage(planned.stage).path : fallback;
  const check = planned?.check ? `/${planned.check}` : id === 'swap' ? '/swap' : '';
  return `/jobs/${job.id.value}/${at}${check}`;
};
/** What it costs, each thing by itself. */
const costs = (one: NextCheck) =>
  [
    `${Math.round(one.minutes)} min`,
    one.removal_minutes ? minToRemove(Math.round(one.removal_minutes)) : '',
    one.hazard,
  ]
    .filter(Boolean)
    .join(' · ');
</script>

<template>
  <section aria-label="Next step">
    <h2 class="minor">Next step</h2>
    <p class="first">
      <strong v-if="step.stage === 'decide'">{{ step.title }}</strong>
      <RouterLink v-else class="side-act" :to="path(step.step, stage(step.stage).path)">{{
        step.title
      }}</RouterLink>
      <span class="small">{{ step.why }}</span>
    </p>
    <ComplaintAsk v-if="judgement.complaint && !step.asks_complaint" :told="judgement.complaint" />
    <template v-if="others.length">
      <h2 class="minor">Other checks that could help</h2>
      <ol>
        <li v-for="one in others" :key="one.id">
          <RouterLink :to="path(one.step, 'take-in/plan')">{{ one.title }}</RouterLink>
          <span class="muted">{{ costs(one) }}</span>
        </li>
      </ol>
    </template>
    <p v-for="one in judgement.left_out" :key="one.title" class="muted small">
      {{ one.title }}: {{ one.why }}
    </p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 6px;
}
.first {
  display: grid;
  gap: 4px;
  justify-items: start;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 8px;
  min-height: 36px;
  align-items: center;
  border-top: 1px solid var(--line);
  font-size: 0.9rem;
}
li a {
  padding: 8px 0;
}
li .muted {
  padding-bottom: 4px;
}
</style>
