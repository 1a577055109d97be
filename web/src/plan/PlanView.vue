<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { Event } from '@/api/types';
import { useQuery } from '@tanstack/vue-query';
import { ask, refusal } from '@/api/client';
import { useJob } from '@/job/useJob';
import { useKeys } from '@/shell/useKeys';
import StripSmall from '@/strip/StripSmall.vue';
import { day } from '@/domain/time';
import { stage as stageOf } from '@/words';
import OwnStep from './OwnStep.vue';
import { pathOf } from './pathOf';
import PlanRow from './PlanRow.vue';
import TakeInTabs from './TakeInTabs.vue';
import { startNextStep } from '@/plan/words';

/** The plan: what to do in which order, why, and what results made of it. */
const job = useJob();
const view = computed(() => job.view.value!);
const plan = computed(() => view.value.plan);
/** The check that found what has to be put right. */
const again = computed(() => {
  const first = plan.value.first;
  return first ? `/jobs/${job.id.value}/${stageOf(first.stage).path}/${first.check}` : '';
});
const machine = computed(() => view.value.file.job.intake.machine);
const hours = computed(() => {
  const [h, m] = [Math.floor(plan.value.minutes / 60), plan.value.minutes % 60];
  return h ? `${h} h ${m}` : String(m);
});
const earlier = useQuery({
  queryKey: computed(() => ['earlier', machine.value, job.id.value]),
  queryFn: () =>
    ask('get', '/api/earlier', { params: { query: { machine: machine.value, but: job.id.value } } }),
});
const wrong = ref('');
async function happened(event: Event): Promise<boolean> {
  try {
    await job.happened(event);
    wrong.value = '';
  } catch (error) {
    wrong.value = refusal(error).fields[0]?.message ?? refusal(error).message;
  }
  return !wrong.value;
}
function print() {
  window.print();
}
const router = useRouter();
function begin() {
  const { step } = view.value;
  const planned = plan.value.steps.find((one) => one.id === step.step);
  const stage = `/jobs/${job.id.value}/${stageOf(step.stage).path}`;
  void router.push(planned ? pathOf(planned, job.id.value) : stage);
}
useKeys([
  { key: 'd', word: 'print the plan', run: print },
  { key: 'g', word: startNextStep, run: begin },
]);
</script>

<template>
  <main class="plan">
    <section class="list">
      <div class="top">
        <TakeInTabs />
        <button class="side-act" type="button" @click="print">Print plan <span class="key">D</span></button>
      </div>
      <p class="steer">{{ plan.steer }}</p>
      <p v-if="!plan.first" class="now">
        <span class="muted">Next:</span> <strong>{{ view.step.title }}</strong>
      </p>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <ol>
        <PlanRow
          v-for="(step, i) in plan.steps"
          :key="step.id"
          :step="step"
          :number="i + 1"
          :next="step.id === view.step.step"
          :job="job.id.value"
          @skip="happened({ what: 'step_skipped', step: step.id, reason: $event })"
          @back="happened({ what: 'step_back', step: step.id })"
          @first="happened({ what: 'step_first', step: step.id })"
          @done="happened({ what: 'step_done', step: step.id })"
        />
      </ol>
    </section>
    <aside aria-label="About the plan">
      <RouterLink v-if="plan.first" class="main-act" :to="again">Repeat check after the fix</RouterLink>
      <p v-else class="left">{{ hours }}<span class="unit"> min open</span></p>
      <OwnStep :happened="happened" />
      <section v-if="earlier.data.value?.length" class="earlier">
        <h2>Earlier jobs on this machine</h2>
        <RouterLink v-for="card in earlier.data.value" :key="card.id" :to="`/jobs/${card.id}/take-in/plan`">
          <strong>{{ card.number }}</strong> {{ card.waits.words }}
          <StripSmall :banks="card.banks" />
        </RouterLink>
      </section>
      <p class="muted small">
        Booked in {{ day(view.file.job.taken_in.at) }}. Maker’s instructions, local regulations and the law
        come before this plan.
      </p>
    </aside>
  </main>
</template>

<style scoped>
.now {
  padding: 0 22px 8px;
  font-size: 1.15rem;
}
.plan {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  min-height: calc(100vh - 160px);
}
.list {
  padding: 6px 18px 24px 22px;
}
.top {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
}
.steer {
  font-size: 1.3rem;
  font-weight: 700;
  border-left: 6px solid var(--act);
  padding: 4px 0 4px 14px;
  margin: 10px 0;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 2px solid var(--ink);
}
aside {
  background: var(--sheet);
  border-left: 1px solid var(--line);
  padding: 16px 18px;
  display: grid;
  gap: 18px;
  align-content: start;
}
.left {
  font-size: 3rem;
  font-weight: 700;
  line-height: 1;
}
.left .unit {
  font-size: 1rem;
}
.earlier {
  display: grid;
  gap: 8px;
}
.earlier a {
  color: inherit;
  text-decoration: none;
  border-top: 1px solid var(--line);
  padding: 8px 0;
  display: grid;
  gap: 4px;
}
@media (max-width: 1000px) {
  .plan {
    grid-template-columns: 1fr;
  }
}
@media print {
  .plan {
    display: block;
  }
  .top button,
  .earlier {
    display: none;
  }
}
</style>
