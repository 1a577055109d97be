<script setup lang="ts">
import { computed, toRef, watch } from 'vue';
import { moment } from '@/domain/time';
import { makeJob, provideJob } from '@/job/useJob';
import ReturnColumns from '@/returntest/ReturnColumns.vue';
import StateLine from '@/shell/StateLine.vue';
import { useKeys } from '@/shell/useKeys';
import { sayHeadline } from '@/shell/useHeadline';
import InjectorMark from '@/strip/InjectorMark.vue';
import StripFrame from '@/strip/StripFrame.vue';
import StripRow from '@/strip/StripRow.vue';
import { DECISION, stage, SYMPTOM } from '@/words';
import BenchPages from './BenchPages.vue';
import SheetsPage from './SheetsPage.vue';
import TogetherSection from './TogetherSection.vue';
import TechnicalPage from './TechnicalPage.vue';

/** The page that the customer takes along, and the technical page behind it. */
const props = defineProps<{ id: string }>();
const job = makeJob(toRef(props, 'id'));
provideJob(job);
const file = computed(() => job.view.value?.file);
const verdict = computed(() => job.judged.value);
/** What the bench says stands where it was read last, or where nothing else was. */
const bench = computed(() => {
  const found = job.view.value?.bench;
  return found && (found.newest || !verdict.value) ? found : undefined;
});
const order = computed(() => job.view.value?.banks.flat() ?? []);
const lane = (cylinder: number) =>
  bench.value?.lanes.find((one) => one.cylinder === cylinder) ??
  verdict.value?.lanes.find((one) => one.cylinder === cylinder);
watch(file, (file) => file && sayHeadline(`Report, job ${file.job.number}`, file.job.intake.machine), {
  immediate: true,
});
const print = () => window.print();
useKeys([{ key: 'Ctrl+p', word: 'print', run: print }]);
/** The newest finding of each check; a return test speaks first. */
const headline = computed(() => {
  const checks = new Map<string, string>();
  file.value?.sheets?.forEach((record, i) => {
    const found = job.view.value?.sheets[i]?.verdict;
    if (found && record.readings.length) checks.set(record.check, found.headline);
  });
  const all = [bench.value?.headline, verdict.value?.headline, ...checks.values()].filter(Boolean);
  return all.length ? all.join(' ') : 'Nothing was measured.';
});
</script>

<template>
  <StateLine
    v-if="!file"
    :loading="job.query.isPending.value"
    :error="job.query.error.value"
    @again="job.query.refetch()"
  />
  <main v-else>
    <nav class="tools">
      <RouterLink class="side-act" :to="`/jobs/${id}/decide`">Back to the job</RouterLink>
      <a class="side-act" :href="`/api/jobs/${id}/export.json`" download>Job as a file</a>
      <a class="side-act" :href="`/api/jobs/${id}/readings.csv`" download>Readings as CSV</a>
      <button class="main-act" type="button" @click="print">Print <span class="key">Ctrl P</span></button>
    </nav>
    <article class="page">
      <header>
        <p class="mark-name">cobaltine</p>
        <div>
          <h1>{{ file.job.intake.machine }}</h1>
          <p>
            {{ file.job.intake.engine }}<template v-if="file.family">, {{ file.family }}</template
            ><template v-if="file.job.intake.usage">, {{ file.job.intake.usage }}</template>
          </p>
        </div>
        <p class="right">
          Job {{ file.job.number }}<br />{{ file.job.intake.customer }}<br />{{
            moment(file.job.taken_in.at)
          }}
        </p>
      </header>
      <p class="complaint">
        {{ file.job.intake.symptoms.map((one) => SYMPTOM[one]).join(', ') }}.
        {{ file.job.intake.complaint }}
      </p>
      <p class="finding">
        <strong>{{ headline }}</strong> {{ verdict?.advice }}
      </p>
      <StripFrame
        :banks="job.view.value!.banks"
        :first-at="file.job.intake.layout.first_at"
        :labels="job.labels.value"
        gutter="70px"
      >
        <ReturnColumns v-if="verdict" :verdict="verdict" compact print />
        <StripRow v-if="bench" word="on the bench">
          <template #default="{ cylinder }">
            <p class="decided" :data-mark="lane(cylinder)?.mark ?? 'not_measured'">
              <InjectorMark :mark="lane(cylinder)?.mark ?? 'not_measured'" :size="26" silent />
              {{ lane(cylinder)?.word ?? '' }}
            </p>
          </template>
        </StripRow>
        <StripRow word="decided">
          <template #default="{ cylinder }">
            <p class="decided">
              {{ job.decision(cylinder) ? DECISION[job.decision(cylinder)!.decision] : 'open' }}
            </p>
          </template>
        </StripRow>
      </StripFrame>
      <table>
        <caption>
          What was found and what is done
        </caption>
        <tbody>
          <tr v-for="cylinder in order" :key="cylinder">
            <th scope="row">
              {{ cylinder }} <InjectorMark :mark="lane(cylinder)?.mark ?? 'not_measured'" :size="22" silent />
            </th>
            <td>{{ lane(cylinder)?.sentence ?? 'Not measured.' }}</td>
            <td>
              <template v-if="job.decision(cylinder)"
                ><strong>{{ DECISION[job.decision(cylinder)!.decision] }}.</strong>
                {{ job.decision(cylinder)!.reason }}
                <template
                  v-if="
                    job.decision(cylinder)!.proposed &&
                    job.decision(cylinder)!.proposed!.decision !== job.decision(cylinder)!.decision
                  "
                  ><br />The program proposed to
                  {{ DECISION[job.decision(cylinder)!.proposed!.decision].toLowerCase() }}:
                  {{ job.decision(cylinder)!.proposed!.reason }}</template
                >
                <span class="muted"
                  >{{ job.person(job.decision(cylinder)!.signed.by) }},
                  {{ moment(job.decision(cylinder)!.signed.at) }}</span
                >
              </template>
              <span v-else class="muted">not decided</span>
            </td>
          </tr>
        </tbody>
      </table>
      <section v-if="file.notes.length">
        <h2>Also done and seen</h2>
        <p v-for="note in file.notes" :key="note.id">
          <strong>{{ stage(note.stage).word }}:</strong> {{ note.text }}
          <span class="muted">{{ job.person(note.signed.by) }}, {{ moment(note.signed.at) }}</span>
        </p>
      </section>
      <footer>
        <p class="signature">Signed</p>
        <p class="muted small">
          Comparisons and limits as printed overleaf. An aid to trained people: the maker’s instructions,
          local codes and the law come first.
        </p>
      </footer>
    </article>
    <TechnicalPage v-if="job.test.value && verdict" :verdict="verdict" />
    <TogetherSection />
    <SheetsPage />
    <BenchPages />
  </main>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  padding: 12px 22px;
  justify-content: flex-end;
}
main :deep(.page) {
  background: var(--sheet);
  border: 1px solid var(--line);
  max-width: 900px;
  margin: 0 auto 20px;
  padding: 26px 34px;
  display: grid;
  gap: 14px;
}
header {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 20px;
  border-bottom: 3px solid var(--ink);
  padding-bottom: 10px;
}
.mark-name {
  font-weight: 700;
  font-size: 1.2rem;
  color: var(--act);
}
.right {
  text-align: right;
}
.finding {
  font-size: 1.15rem;
  border-left: 6px solid var(--ink);
  padding-left: 12px;
}
.decided {
  text-align: center;
  font-size: var(--word);
  font-weight: 700;
  line-height: 1.15;
  padding: 4px 2px;
}
main :deep(table) {
  width: 100%;
  border-collapse: collapse;
  font-size: 0.92rem;
}
main :deep(caption) {
  text-align: left;
  font-weight: 700;
  padding-bottom: 4px;
}
main :deep(th),
main :deep(td) {
  text-align: left;
  vertical-align: top;
  border-top: 1px solid var(--line);
  padding: 5px 10px 5px 0;
}
main :deep(th) {
  white-space: nowrap;
}
.signature {
  border-bottom: 1px solid var(--ink);
  width: 260px;
  padding-top: 26px;
  margin-bottom: 8px;
}
@media print {
  .tools {
    display: none;
  }
  main :deep(.page) {
    border: 0;
    margin: 0;
    padding: 0;
    max-width: none;
  }
  main :deep(tr),
  main :deep(.strip) {
    break-inside: avoid;
  }
}
</style>
<style>
@page {
  margin: 14mm;
}
@media print {
  :root,
  [data-theme='dim'],
  [data-theme='bright'] {
    --paper: #fff;
    --sheet: #fff;
    --ink: #000;
    --muted: #444;
    --line: #999;
  }
  body {
    font-size: 11pt;
  }
}
</style>
