<script setup lang="ts">
import { useQueries, useQuery } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ask, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import type { BenchKind, FuelSystem } from '@/api/types';
import { newId } from '@/domain/identity';
import { sayHeadline } from '@/shell/useHeadline';
import { FUEL } from '@/words';
import MeasuredWith, { type With } from './MeasuredWith.vue';
import { startBenchSession, injectorsOneJobSeveral } from '@/bench/words';

/** Injectors of one job or of several onto one rail: chosen in the order in which they hang. */
const route = useRoute();
const router = useRouter();
sayHeadline(startBenchSession, injectorsOneJobSeveral);
const jobs = ref<string[]>(typeof route.query.job === 'string' ? [route.query.job] : []);
const views = useQueries({
  queries: computed(() =>
    jobs.value.map((id) => ({
      queryKey: ['job', id],
      queryFn: () => ask('get', '/api/jobs/{job}', { params: { path: { job: id } } }),
    })),
  ),
});
const held = computed(() => views.value.flatMap((one) => one.data ?? []));
/** In the order of the rail. */
const rail = ref<{ job: string; cylinder: number }[]>([]);
const hangs = (job: string, cylinder: number) =>
  rail.value.findIndex((one) => one.job === job && one.cylinder === cylinder);
function tap(job: string, cylinder: number) {
  const at = hangs(job, cylinder);
  if (at >= 0) rail.value.splice(at, 1);
  else if (rail.value.length < 16) rail.value.push({ job, cylinder });
}
/** Whatever a job brings hangs at once; a tap takes it off. */
const taken = new Set<string>();
watch(
  held,
  (views) => {
    for (const view of views) {
      const job = view.file.job.id;
      if (taken.has(job)) continue;
      taken.add(job);
      for (const cylinder of view.banks.flat()) tap(job, cylinder);
    }
  },
  { immediate: true },
);
const fuel = computed<FuelSystem | undefined>(() => held.value[0]?.file.job.intake.fuel_system);
const kind = computed<BenchKind>(() =>
  fuel.value?.startsWith('petrol') ? 'petrol' : fuel.value === 'exhaust_doser' ? 'doser' : 'diesel',
);

const words = ref('');
const found = useQuery({
  queryKey: computed(() => ['find', words.value]),
  queryFn: () => ask('get', '/api/board', { params: { query: { per_page: 6, q: words.value } } }),
});
const add = (job: string) => jobs.value.push(job);
const others = computed(() =>
  (found.data.value?.cards ?? []).filter((card) => !jobs.value.includes(card.id)),
);

const told = ref<With>({ bench: '', plan: '', entry: 'volume', graduation: '', capacity: '' });
/** Nobody starts without the bench and the plan because they came a moment later. */
const ready = ref(false);
const problems = ref<Record<string, string>>({});
const wrong = ref('');
const [id, round] = [newId(), newId()];

async function begin() {
  try {
    const { bench, plan, ...typed } = told.value;
    const body = {
      id,
      round,
      injectors: rail.value,
      ...typed,
      bench: bench || null,
      plan: kind.value === 'diesel' ? plan || null : null,
    };
    const made = await act('post', '/api/bench', { body });
    await router.push(`/bench/${made.file.id}/visual`);
  } catch (error) {
    const refused = refusal(error);
    problems.value = Object.fromEntries(refused.fields.map((one) => [one.field, one.message]));
    wrong.value =
      refused.fields.find((one) => !['graduation', 'capacity'].includes(one.field))?.message ??
      (refused.fields.length ? '' : refused.message);
  }
}
</script>

<template>
  <main class="start">
    <section>
      <h2>{{ held.length ? 'On the bench rail, in this order' : 'Choose the job of the injectors' }}</h2>
      <div v-for="view in held" :key="view.file.job.id" class="job">
        <p>
          <strong>{{ view.file.job.intake.machine }}</strong>
          <span class="muted small">
            job {{ view.file.job.number }} ·
            {{ view.file.family ?? FUEL[view.file.job.intake.fuel_system] }}</span
          >
        </p>
        <div class="taps">
          <button
            v-for="cylinder in view.banks.flat()"
            :key="cylinder"
            type="button"
            :aria-pressed="hangs(view.file.job.id, cylinder) >= 0"
            :aria-label="`Injector of cylinder ${cylinder}, job ${view.file.job.number}`"
            @click="tap(view.file.job.id, cylinder)"
          >
            <span class="small">cyl {{ cylinder }}</span>
            <strong>{{
              hangs(view.file.job.id, cylinder) >= 0 ? hangs(view.file.job.id, cylinder) + 1 : '–'
            }}</strong>
          </button>
        </div>
      </div>
      <h2 v-if="held.length">Add another job</h2>
      <input
        v-model.lazy="words"
        class="find"
        type="search"
        placeholder="machine, customer, number"
        aria-label="Find jobs"
      />
      <div class="others">
        <button v-for="card in others" :key="card.id" class="side-act" type="button" @click="add(card.id)">
          {{ card.machine }} <span class="muted small">{{ card.number }}</span>
        </button>
      </div>
    </section>
    <section v-if="held.length">
      <h2>Measured with</h2>
      <MeasuredWith
        v-model="told"
        v-model:ready="ready"
        :kind="kind"
        :first="held[0]!"
        :problems="problems"
      />
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <button class="main-act" type="button" :disabled="!rail.length || !ready" @click="begin">
        Fit {{ rail.length }} to the bench rail
      </button>
    </section>
  </main>
</template>

<style scoped>
.start {
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) minmax(0, 1fr);
  gap: 24px;
  padding: 20px 22px;
}
section {
  display: grid;
  gap: 12px;
  align-content: start;
}
.taps,
.others {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.taps button {
  min-width: 62px;
  min-height: 62px;
  border: 2px dashed var(--edge);
  border-radius: 8px;
  background: none;
  color: inherit;
  cursor: pointer;
  display: grid;
  justify-items: center;
}
.taps [aria-pressed='true'] {
  border: 2px solid var(--act);
  background: var(--act-soft);
}
.taps strong {
  font-size: 1.3rem;
}
.find {
  min-height: 48px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  color: inherit;
  font: inherit;
  padding: 0 10px;
}
@media (max-width: 900px) {
  .start {
    grid-template-columns: 1fr;
  }
}
</style>
