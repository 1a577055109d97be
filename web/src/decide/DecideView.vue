<script setup lang="ts">
import { computed, ref } from 'vue';
import { refusal } from '@/api/client';
import type { Decision } from '@/api/types';
import { newId } from '@/domain/identity';
import { useJob } from '@/job/useJob';
import { useKeys } from '@/shell/useKeys';
import { cylinderKeys } from '@/strip/cylinderKeys';
import StateLine from '@/shell/StateLine.vue';
import StripFrame from '@/strip/StripFrame.vue';
import CauseScale from './CauseScale.vue';
import DecideAct from './DecideAct.vue';
import DecideRows from './DecideRows.vue';
import NextChecks from './NextChecks.vue';
import SchoolList from './SchoolList.vue';
import { useJudgement } from './useJudgement';
import { agreeWhatProposed } from '@/decide/words';

/** The judgement call, injector by injector: likely causes, what is proposed and why, what is decided. */
const job = useJob();
const { query, judgement, at } = useJudgement();
const view = computed(() => job.view.value!);
const order = computed(() => view.value.banks.flat());
const open = computed(() => order.value.filter((cylinder) => !job.decision(cylinder)));
const tapped = ref<number | null>(null);
/** What needs work comes first; then what is open. */
const pressing = computed(() => open.value.find((c) => at(c)?.ruling.decision !== 'leave'));
const selected = computed(() => tapped.value ?? pressing.value ?? open.value[0] ?? order.value[0] ?? 1);
const current = computed(() => at(selected.value));
const wrong = ref('');
const otherwise = ref(false);
const unfolded = ref<string | null | undefined>(undefined);
const leaves = computed(() => open.value.filter((c) => at(c)?.ruling.decision === 'leave'));
const opened = (cause: string | null | undefined, i: number) =>
  unfolded.value === undefined ? i === 0 : unfolded.value === (cause ?? 'sound');
const toggle = (cause: string | null | undefined, i: number) =>
  (unfolded.value = opened(cause, i) ? null : (cause ?? 'sound'));

async function decide(decisions: { cylinder: number; decision: Decision; reason: string }[]) {
  try {
    const body = { decisions: decisions.map((one) => ({ id: newId(), ...one })) };
    await job.change('post', '/api/jobs/{job}/decisions', { params: { path: { job: job.id.value } }, body });
    wrong.value = '';
    otherwise.value = false;
    tapped.value = null;
  } catch (error) {
    wrong.value = refusal(error).about('reason') || refusal(error).message;
  }
}
function agree(cylinders: number[]) {
  const agreed = cylinders.flatMap((cylinder) => {
    const ruling = at(cylinder)?.ruling;
    return ruling ? [{ cylinder, decision: ruling.decision, reason: ruling.sentence }] : [];
  });
  if (agreed.length) void decide(agreed);
}
function pick(cylinder: number) {
  tapped.value = cylinder;
  unfolded.value = undefined;
  otherwise.value = false;
}
useKeys([
  { key: 'a', word: agreeWhatProposed, run: () => agree([selected.value]) },
  { key: 'o', word: 'override the proposal', run: () => (otherwise.value = true) },
  ...cylinderKeys(order.value.length, pick, (cylinder) => `look at cylinder ${cylinder}`),
]);
</script>

<template>
  <StateLine
    v-if="!judgement"
    :loading="query.isPending.value"
    :error="query.error.value"
    @again="query.refetch()"
  />
  <main v-else class="decide">
    <section class="set">
      <p class="bench-finding" role="status">
        <strong>{{ judgement.headline }}</strong>
        <span v-if="judgement.differ">{{ judgement.differ }}</span>
      </p>
      <StripFrame
        :banks="view.banks"
        :first-at="view.file.job.intake.layout.first_at"
        :labels="job.labels.value"
        :selected="selected"
        @select="pick"
      >
        <DecideRows :judgement="judgement" @pick="pick" />
      </StripFrame>
    </section>

    <DecideAct
      v-model:otherwise="otherwise"
      :judgement="judgement"
      :current="current"
      :selected="selected"
      :open="open.length"
      :leaves="leaves"
      :wrong="wrong"
      @agree="agree"
      @decide="decide"
    />
    <section v-if="current" class="causes" aria-label="Causes">
      <h2>Ranked causes</h2>
      <p class="muted small legend">
        ○ before any measurement; findings move it right (for) or left (against). Past the dashed line,
        {{ Math.round(judgement.act * 100) }} %, act on it.
      </p>
      <CauseScale
        v-for="(one, i) in current.ranked"
        :key="one.word"
        :ranked="one"
        :act="judgement.act"
        :open="opened(one.cause, i)"
        @toggle="toggle(one.cause, i)"
      />
    </section>
    <aside aria-label="Proposal" class="why">
      <NextChecks :judgement="judgement" />
      <SchoolList v-if="judgement.schools.length" :schools="judgement.schools" :cylinder="selected" />
      <nav v-if="view.bench" class="set-links" aria-label="For the set">
        <RouterLink class="side-act" :to="`/jobs/${job.id.value}/decide/places`"
          >Positions and fuelling</RouterLink
        >
        <RouterLink class="side-act" :to="`/match?job=${job.id.value}`">Match</RouterLink>
      </nav>
    </aside>
  </main>
</template>

<style scoped>
.decide {
  display: grid;
  grid-template-columns: minmax(0, 9fr) minmax(0, 10fr) minmax(0, 8fr);
  min-height: calc(100vh - 114px);
  grid-template-rows: auto 1fr;
}
.set {
  grid-column: 1 / -1;
  padding: 6px 0 10px;
  border-bottom: 1px solid var(--line);
}
.set-links {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 14px;
}
.causes {
  padding: 16px 20px;
  border-left: 1px solid var(--line);
}
.legend {
  padding: 4px 0;
}
.why {
  background: var(--sheet);
  border-left: 1px solid var(--line);
  padding: 16px 20px;
  display: flex;
  flex-direction: column;
  gap: 18px;
}
@media (max-width: 900px) {
  .decide {
    grid-template-columns: 1fr;
  }
}
</style>
