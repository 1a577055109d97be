<script setup lang="ts">
import { useQueries } from '@tanstack/vue-query';
import { computed } from 'vue';
import { ask } from '@/api/client';
import { roundWord } from '@/bench/useSession';
import { moment } from '@/domain/time';
import { useJob } from '@/job/useJob';
import { BENCH, BENCH_TEST } from '@/words';

/** Every bench session of the job: each round with what each test said, of these injectors. */
const job = useJob();
const sessions = useQueries({
  queries: computed(() =>
    (job.view.value?.file.bench ?? []).map((one) => ({
      queryKey: ['bench', one.id],
      queryFn: () => ask('get', '/api/bench/{session}', { params: { path: { session: one.id } } }),
    })),
  ),
});
const shown = computed(() =>
  sessions.value.flatMap((one) => {
    const view = one.data;
    if (!view) return [];
    const ours = view.file.injectors.filter((held) => held.job === job.id.value);
    const rounds = view.file.rounds.map((round) => ({
      round,
      tests: view.verdicts.filter((held) => held.round === round.id && held.verdict),
    }));
    return [{ view, ours, rounds: rounds.filter((held) => held.tests.length) }];
  }),
);
</script>

<template>
  <article v-if="shown.length" class="page">
    <h2>On the bench</h2>
    <section v-for="{ view, ours, rounds } in shown" :key="view.file.id">
      <h3>{{ BENCH[view.file.setup.kind] }}, session {{ view.file.number }}</h3>
      <p class="muted small">
        {{ moment(view.file.signed.at)
        }}<template v-if="view.file.setup.bench">; with {{ view.file.setup.bench.name }}</template
        >; tubes marked every {{ view.file.setup.graduation }}.
      </p>
      <table v-for="{ round, tests } in rounds" :key="round.id">
        <caption>
          {{
            roundWord(round)
          }}
        </caption>
        <thead>
          <tr>
            <th scope="col">Test</th>
            <th v-for="one in ours" :key="one.tag" scope="col">
              cyl {{ one.cylinder }} <span class="unit">{{ one.label }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <template v-for="held in tests" :key="held.test">
            <tr>
              <th scope="row">{{ BENCH_TEST[held.test] }}</th>
              <td v-for="one in ours" :key="one.tag">
                {{ held.verdict!.lanes.find((lane) => lane.place === one.tag)?.shown }}
                {{ held.verdict!.lanes.find((lane) => lane.place === one.tag)?.word }}
              </td>
            </tr>
            <tr class="says">
              <td :colspan="ours.length + 1">
                {{ held.verdict!.headline }} {{ held.verdict!.advice.join(' ') }}
                {{ held.verdict!.flags.join(' ') }}
              </td>
            </tr>
          </template>
        </tbody>
      </table>
    </section>
  </article>
</template>

<style scoped>
caption {
  text-align: left;
  font-weight: 700;
  padding-top: 8px;
}
.says td {
  text-align: left;
  border-top: 0;
}
</style>
