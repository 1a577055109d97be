<script setup lang="ts">
import { computed } from 'vue';
import type { Judgement } from '@/api/types';
import { useJob } from '@/job/useJob';
import { stage } from '@/words';

/** What to look at next: the most telling for a minute first, and what was left out. */
const props = defineProps<{ judgement: Judgement }>();
const job = useJob();
const first = computed(() => props.judgement.next[0]);
const path = (step: string) => {
  const planned = job.view.value?.plan.steps.find((one) => one.id === step);
  const at = planned ? stage(planned.stage).path : 'take-in/plan';
  const check = planned?.check ? `/${planned.check}` : step === 'swap' ? '/swap' : '';
  return `/jobs/${job.id.value}/${at}${check}`;
};
</script>

<template>
  <section aria-label="Next check">
    <h3>What would tell most</h3>
    <p v-if="first" class="first">
      <RouterLink class="side-act" :to="path(first.step)">{{ first.title }}</RouterLink>
      <span class="small">{{ first.why }} Needs {{ first.needs }}.</span>
    </p>
    <p v-else class="muted">Nothing that is left would tell more than it costs.</p>
    <ol v-if="judgement.next.length > 1">
      <li v-for="one in judgement.next.slice(1)" :key="one.id">
        <RouterLink :to="path(one.step)">{{ one.title }}</RouterLink>
        <span class="muted">{{ one.bits.toFixed(2) }} bits, {{ Math.round(one.counted_minutes) }} min</span>
      </li>
    </ol>
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
  justify-content: space-between;
  gap: 8px;
  min-height: 36px;
  align-items: center;
  border-top: 1px solid var(--line);
  font-size: 0.9rem;
}
li a {
  padding: 8px 0;
}
</style>
