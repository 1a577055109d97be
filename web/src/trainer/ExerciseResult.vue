<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { ask } from '@/api/client';
import { useJob } from '@/job/useJob';
import StateLine from '@/shell/StateLine.vue';
import StripFrame from '@/strip/StripFrame.vue';
import StripRow from '@/strip/StripRow.vue';
import { moment } from '@/domain/time';
import { DECISION } from '@/words';
import MarkBars from './MarkBars.vue';
import { useExercise } from './useExercise';
import { bestWay, hours, noMistakes, setByOther, timesBest } from './words';

/** The end of an exercise: what was true, on the strip, beside what was decided; and a mark for each skill. */
const job = useJob();
const exercise = useExercise(job);
const state = exercise.state;
const marking = computed(() => state.value?.marking ?? undefined);
const layout = computed(() => job.view.value!.file.job.intake.layout);
const at = (cylinder: number) => marking.value?.cylinders.find((one) => one.cylinder === cylinder);
const learner = computed(() => job.view.value?.file.job.exercise?.learner);
const others = useQuery({
  queryKey: computed(() => ['trainer', learner.value, 0]),
  queryFn: () => ask('get', '/api/trainer', { params: { query: { learner: learner.value!, per_page: 30 } } }),
  enabled: computed(() => !!learner.value),
});
const earlier = computed(() =>
  (others.data.value?.exercises ?? [])
    .filter((one) => one.line.job !== job.id.value)
    .flatMap((one) => (one.line.marks ? [one.line.marks] : [])),
);
const times = computed(() => {
  const best = marking.value?.best.total ?? 0;
  return best > 0 ? (marking.value?.spent.total ?? 0) / best : 1;
});
</script>

<template>
  <StateLine
    v-if="!marking"
    :loading="exercise.query.isPending.value"
    :error="exercise.query.error.value"
    empty="No result yet. End the exercise."
    @again="exercise.query.refetch()"
  />
  <main v-else class="result">
    <section class="truth" aria-label="Truth">
      <p class="bench-finding" role="status">
        <strong>{{ marking.says }}</strong>
        <span v-for="one in marking.shared" :key="one.truth">
          {{ ` Shared: ${one.truth}, ${one.found ? 'found' : 'missed'}.` }}
        </span>
      </p>
      <StripFrame :banks="job.view.value!.banks" :first-at="layout.first_at" :labels="job.labels.value">
        <StripRow word="truth">
          <template #default="{ cylinder }">
            <p class="was" :class="at(cylinder)?.outcome">{{ at(cylinder)?.truth }}</p>
          </template>
        </StripRow>
        <StripRow word="decided">
          <template #default="{ cylinder }">
            <p class="said">
              {{ at(cylinder)?.decided ? DECISION[at(cylinder)!.decided!] : 'not decided' }}
            </p>
          </template>
        </StripRow>
        <StripRow word="outcome">
          <template #default="{ cylinder }">
            <p class="outcome" :class="at(cylinder)?.outcome">{{ at(cylinder)?.word }}</p>
          </template>
        </StripRow>
      </StripFrame>
      <h2>On the way</h2>
      <p v-if="!marking.mistakes.length" class="muted">{{ noMistakes }}</p>
      <ol v-else class="mistakes">
        <li v-for="(one, i) in marking.mistakes" :key="i">
          <strong>{{ one.says }}</strong> {{ one.why }}
          <span class="points">−{{ one.points }}</span>
        </li>
      </ol>
      <h2>Protocol</h2>
      <table class="protocol">
        <tbody>
          <tr v-for="(one, i) in marking.protocol" :key="i">
            <td class="muted">{{ moment(one.at) }}</td>
            <td>{{ one.says }}</td>
            <td class="min">{{ one.minutes ? `${Math.round(one.minutes)} min` : '' }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <aside aria-label="Marks">
      <h2>
        {{ state!.learner }}
        <span v-if="state!.set_by" class="muted small">{{ setByOther(state!.set_by) }}</span>
      </h2>
      <MarkBars :marks="marking.marks" :earlier="earlier" />
      <h2>{{ bestWay }}</h2>
      <ol class="best">
        <li v-for="step in marking.best_steps" :key="step">{{ step }}</li>
      </ol>
      <dl class="cost">
        <dt>Yours</dt>
        <dd>
          <strong>{{ Math.round(marking.spent.total) }}</strong> in {{ hours(marking.spent.minutes) }} h
        </dd>
        <dt>Best</dt>
        <dd>
          <strong>{{ Math.round(marking.best.total) }}</strong> in {{ hours(marking.best.minutes) }} h
        </dd>
      </dl>
      <p class="muted">{{ timesBest(times) }}</p>
      <RouterLink class="main-act" to="/trainer">Choose next case</RouterLink>
    </aside>
  </main>
</template>

<style scoped>
.result {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 350px;
  gap: 26px;
  padding: 0 22px 30px 0;
}
.truth {
  min-width: 0;
}
.truth h2,
.truth > .muted,
.mistakes {
  margin-left: 22px;
}
.truth h2 {
  margin-top: 20px;
}
.was,
.said,
.outcome {
  text-align: center;
  padding: 10px 6px;
  line-height: 1.25;
  overflow-wrap: anywhere;
}
.was {
  font-weight: 700;
  font-size: var(--word);
}
.said {
  color: var(--muted);
}
.outcome {
  font-size: 1.25rem;
  font-weight: 700;
  border-top: 5px solid var(--rest);
}
.outcome.found,
.outcome.right {
  color: var(--inside);
  border-top-color: var(--inside);
}
.outcome.missed,
.outcome.condemned {
  color: var(--too-much);
  border-top: 5px double var(--too-much);
}
.outcome.other_remedy,
.outcome.blamed,
.outcome.undecided {
  color: var(--look);
  border-top: 5px dashed var(--look);
}
.mistakes li {
  padding: 6px 0;
  max-width: 68ch;
}
.points {
  font-weight: 700;
  color: var(--too-much);
}
.protocol {
  margin: 6px 0 0 22px;
  border-collapse: collapse;
}
.protocol td {
  padding: 5px 18px 5px 0;
  border-bottom: 1px solid var(--line);
}
.protocol .min {
  text-align: right;
}
aside {
  border-top: 6px solid var(--ink);
  padding-top: 12px;
  display: grid;
  gap: 12px;
  align-content: start;
}
.best {
  padding-left: 1.4em;
}
.cost {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 14px;
  align-items: baseline;
}
.cost dd {
  margin: 0;
}
.cost strong {
  font-size: 1.5rem;
}
@media (max-width: 1000px) {
  .result {
    grid-template-columns: minmax(0, 1fr);
    padding: 0 14px 30px;
  }
}
</style>
