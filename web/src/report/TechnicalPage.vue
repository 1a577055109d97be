<script setup lang="ts">
import { computed } from 'vue';
import type { TestRecord, Verdict } from '@/api/types';
import { methodSays } from '@/domain/language';
import { plain } from '@/domain/numbers';
import { moment } from '@/domain/time';
import { useJob } from '@/job/useJob';
import { corrected, REGIME } from '@/words';

/** Conditions, every reading, the arithmetic and the methods: enough to do it again. */
const props = defineProps<{ test: TestRecord; verdict: Verdict }>();
const job = useJob();
const temperature = computed(() => {
  const at = job.view.value?.file.return_tests?.findIndex((one) => one.id === props.test.id) ?? -1;
  return job.view.value?.temperatures[at];
});
const rows = computed(() =>
  props.test.runs.flatMap((run) => {
    const now = job.view.value?.current.runs.find((one) => one.run === run.id);
    const counts = new Set(now?.readings);
    return run.readings.map((reading) => ({
      run,
      reading,
      stands: counts.has(reading.id) && !run.set_aside,
    }));
  }),
);
const KIND = {
  level: 'level',
  mark: 'mark after',
  overflow: 'full after',
  run_time: 'length',
  void: 'removed',
} as const;
const UNIT = { level: 'ml', mark: 's', overflow: 's', run_time: 's', void: '' } as const;
</script>

<template>
  <article class="page technical">
    <h2>Return test of {{ moment(test.signed.at) }}: conditions and readings</h2>
    <p>
      {{ REGIME[test.setup.regime] }}; engine {{ temperature ?? 'temperature not read' }},
      {{ test.setup.speed_rpm == null ? 'speed not read' : `${plain(test.setup.speed_rpm)} rpm` }}; bottles
      {{ test.setup.capacity_ml }} ml, marks every {{ test.setup.graduation_ml }} ml<template
        v-if="test.setup.instruments?.length"
      >
        ({{ test.setup.instruments.map((one) => one.name).join(', ') }})</template
      >; {{ verdict.runs }} {{ verdict.runs === 1 ? 'run counts' : 'runs count' }}.
      {{ verdict.limit_note }} Workshop rules{{
        test.setup.rules.revision ? ` of revision ${test.setup.rules.revision}` : ''
      }}: look above +{{ Math.round(test.setup.rules.look * 100) }} %, suspect above +{{
        Math.round(test.setup.rules.suspect * 100)
      }}
      %, guard band at {{ Math.round(test.setup.rules.confidence * 100) }} %,
      {{ test.setup.rules.runs_to_replace }} runs needed to replace.
      <strong v-for="flag in verdict.flags" :key="flag">{{ flag }}</strong>
    </p>
    <p v-for="reason in test.setup.rules.reasons" :key="reason">{{ reason }}.</p>
    <table>
      <caption>
        Because
      </caption>
      <tbody>
        <tr v-for="lane in verdict.lanes" :key="lane.place">
          <th scope="row">{{ lane.place }}</th>
          <td>{{ lane.word }}</td>
          <td>
            <span v-for="(step, i) in lane.because" :key="i" class="step"
              >{{ step.says
              }}<template v-if="step.arithmetic"
                >: <strong>{{ step.arithmetic }}</strong>.</template
              >
            </span>
          </td>
        </tr>
      </tbody>
    </table>
    <table>
      <caption>
        What each method says
      </caption>
      <tbody>
        <tr v-for="school in verdict.schools" :key="school.name">
          <td>{{ school.name }}</td>
          <td>
            {{ methodSays(school, school.silent ?? undefined) }}
          </td>
        </tr>
      </tbody>
    </table>
    <table>
      <caption>
        All readings; corrected ones struck out
      </caption>
      <thead>
        <tr>
          <th>Run</th>
          <th>Cylinder</th>
          <th>Reading</th>
          <th>As typed</th>
          <th>By</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.reading.id" :class="{ struck: !row.stands }">
          <td>{{ row.run.number }}</td>
          <td>{{ row.reading.cylinder ?? '' }}</td>
          <td>
            {{ KIND[row.reading.kind] }} {{ plain(row.reading.value) }}
            {{ UNIT[row.reading.kind] }}
          </td>
          <td>
            {{ row.reading.typed || 'by the timer'
            }}<template v-if="row.reading.why"> ({{ corrected(row.reading.why) }})</template>
          </td>
          <td>{{ job.person(row.reading.signed.by) }}, {{ moment(row.reading.signed.at) }}</td>
        </tr>
      </tbody>
    </table>
  </article>
</template>

<style scoped>
.technical {
  font-size: 0.9rem;
}
.step {
  margin-right: 4px;
}
.struck td {
  text-decoration: line-through;
  color: var(--muted);
}
</style>
