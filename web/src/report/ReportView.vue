<script setup lang="ts">
import { computed, ref, toRef, useTemplateRef, watch } from 'vue';
import { moment } from '@/domain/time';
import ReturnColumns from '@/returntest/ReturnColumns.vue';
import TrailLines from '@/job/TrailLines.vue';
import StateLine from '@/shell/StateLine.vue';
import { sayHeadline } from '@/shell/useHeadline';
import InjectorMark from '@/strip/InjectorMark.vue';
import StripFrame from '@/strip/StripFrame.vue';
import StripRow from '@/strip/StripRow.vue';
import { DECISION, SYMPTOM } from '@/words';
import BenchPages from './BenchPages.vue';
import DecidedPage from './DecidedPage.vue';
import PrintTools from './PrintTools.vue';
import { usePaper } from './usePaper';
import { useReport } from './useReport';
import { shareAsOneFile } from './oneFile';
import SecondHalfPage from './SecondHalfPage.vue';
import SheetsPage from './SheetsPage.vue';
import TogetherSection from './TogetherSection.vue';
import TechnicalPage from './TechnicalPage.vue';

/** The page that the customer takes along, and the technical page behind it. */
const props = defineProps<{ id: string }>();
const { job, file, report, pending, error, again } = useReport(toRef(props, 'id'));
/** What was found: the test that failed, where it was repeated since; else the newest. */
const verdict = computed(() => {
  const failed = report.value?.proof.repeat?.return_test;
  return failed == null ? job.judged.value : job.view.value?.verdicts[failed];
});
const after = computed(() => {
  const repeat = report.value?.proof.repeat;
  return repeat?.after_at ? repeat : undefined;
});
const repeated = (cylinder: number) => after.value?.lanes.find((one) => one.cylinder === cylinder);
/** What the bench says stands where it was read last, or where nothing else was. */
const bench = computed(() => {
  const found = job.view.value?.bench;
  return found && (found.newest || !verdict.value) ? found : undefined;
});
const made = computed(() =>
  file.value && report.value
    ? `Job ${file.value.job.number}, made from the job file with SHA-256 ${report.value.hash}`
    : '',
);
const { paper } = usePaper(() => made.value);
const printed = useTemplateRef<HTMLElement>('printed');
const sharing = ref(false);
async function share() {
  if (!printed.value || !file.value) return;
  sharing.value = true;
  await shareAsOneFile(printed.value, `job-${file.value.job.number}-report.html`);
  sharing.value = false;
}
/** The proof has begun: what comes next stands there. */
const proving = computed(() => report.value?.proof.items.some((one) => one.signed) ?? false);
const money = (value: number) => Math.round(value).toLocaleString('en-GB');
const lane = (cylinder: number) =>
  bench.value?.lanes.find((one) => one.cylinder === cylinder) ??
  verdict.value?.lanes.find((one) => one.place === cylinder);
watch(file, (file) => file && sayHeadline(`Report, job ${file.job.number}`, file.job.intake.machine), {
  immediate: true,
});
/** Every return test in which something was read. */
const tests = computed(() =>
  (file.value?.return_tests ?? []).flatMap((test, i) => {
    const found = job.view.value!.verdicts[i];
    return found && found.runs > 0 ? [{ test, verdict: found }] : [];
  }),
);
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
  <StateLine v-if="!file || !report" :loading="pending" :error="error" @again="again" />
  <main v-else>
    <PrintTools v-model:paper="paper">
      <RouterLink class="side-act" :to="`/jobs/${id}/prove`">Back to the job</RouterLink>
      <RouterLink class="side-act" :to="`/jobs/${id}/labels`">Labels</RouterLink>
      <a class="side-act" :href="`/api/jobs/${id}/export.json`" download>Job as a file</a>
      <a class="side-act" :href="`/api/jobs/${id}/readings.csv`" download>Readings as CSV</a>
      <button class="side-act" type="button" :disabled="sharing" @click="share">One file to share</button>
    </PrintTools>
    <div ref="printed" class="printed">
      <article class="page customer">
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
        <TrailLines :view="job.view.value!" report />
        <p class="finding">
          <strong>{{ headline }}</strong>
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
          <StripRow v-if="after && !after.on_bench" word="after">
            <template #default="{ cylinder }">
              <p class="decided" :data-mark="repeated(cylinder)?.after_mark">
                <InjectorMark :mark="repeated(cylinder)?.after_mark ?? 'not_measured'" :size="24" silent />
                {{ repeated(cylinder)?.after }}
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
        <div class="halves">
          <section v-if="report.plain.done.length">
            <h2>What was done</h2>
            <ul>
              <li v-for="line in report.plain.done" :key="line">{{ line }}</li>
            </ul>
          </section>
          <section v-if="report.plain.proven.length">
            <h2>What is proven</h2>
            <ul>
              <li v-for="line in report.plain.proven" :key="line">{{ line }}</li>
            </ul>
          </section>
          <section v-if="report.plain.open.length">
            <h2>What is not, and why</h2>
            <ul>
              <li v-for="line in report.plain.open" :key="line">{{ line }}</li>
            </ul>
          </section>
          <section v-if="report.cost">
            <h2>One or all</h2>
            <p v-for="option in report.cost.options" :key="option.name" class="option">
              <span>{{ option.name }}</span>
              <strong>{{ money(option.parts + option.labour) }}</strong>
              <span class="muted small">and {{ money(option.comeback_cost) }} for comebacks to expect</span>
            </p>
            <p class="small">{{ report.cost.says }}</p>
          </section>
        </div>
        <p v-for="one in report.overtaken" :key="one.cylinder" class="stands">
          <strong>Cylinder {{ one.cylinder }}:</strong> {{ one.says }}
        </p>
        <p class="stands">
          <strong>{{ report.plain.stands }}</strong>
          <span v-if="!proving && report.step.stage !== 'decide'"> Next: {{ report.step.title }}. </span>
          <span v-if="report.proof.closing.closed">
            {{ job.person(report.proof.closing.closed.by) }}, {{ moment(report.proof.closing.closed.at) }}.
          </span>
        </p>
        <footer>
          <p class="signature">Signed</p>
          <p class="muted small">
            Readings, limits and reasons stand on the technical pages. An aid to trained people: the maker’s
            instructions, local codes and the law come first.
          </p>
        </footer>
      </article>
      <DecidedPage :positions="report?.positions ?? []" />
      <TechnicalPage v-for="one in tests" :key="one.test.id" :test="one.test" :verdict="one.verdict" />
      <TogetherSection />
      <SheetsPage />
      <BenchPages />
      <SecondHalfPage :report="report" />
      <p class="hash">
        Job {{ file.job.number }}, made from the job file with SHA-256 <code>{{ report.hash }}</code>
      </p>
    </div>
  </main>
</template>

<style scoped>
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
.halves {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 14px 30px;
}
.halves ul {
  margin: 4px 0 0;
  padding-left: 18px;
}
.halves section {
  break-inside: avoid;
}
.option {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 12px;
  border-bottom: 1px solid var(--line);
  padding: 3px 0;
}
.option .muted {
  grid-column: 1 / -1;
}
.stands > span {
  margin-left: 8px;
}
.stands {
  border-top: 3px solid var(--ink);
  padding-top: 8px;
}
.hash {
  max-width: 900px;
  margin: 0 auto 30px;
  font-size: 0.75rem;
  overflow-wrap: anywhere;
}
.signature {
  border-bottom: 1px solid var(--ink);
  width: 260px;
  padding-top: 26px;
  margin-bottom: 8px;
}
@media print {
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
  main :deep(.page + .page) {
    margin-top: 18px;
  }
  main :deep(h2),
  main :deep(h3),
  main :deep(caption) {
    break-after: avoid;
  }
  /* One sheet for the customer. */
  .customer {
    font-size: 9pt;
    gap: 6px;
    line-height: 1.3;
  }
  .customer :deep(.strip) {
    zoom: 0.82;
  }
  .customer .small,
  .customer .option {
    font-size: 8.5pt;
  }
  .customer .halves {
    gap: 8px 26px;
  }
  .customer .finding {
    font-size: 12pt;
  }
  .customer footer {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 20px;
    align-items: end;
  }
  /* It stands at the foot of every sheet. */
  .hash {
    display: none;
  }
}
</style>
<style>
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
