<script setup lang="ts">
import { computed, ref, toRef, useTemplateRef, watch } from 'vue';
import { useRoute } from 'vue-router';
import StateLine from '@/shell/StateLine.vue';
import { sayHeadline } from '@/shell/useHeadline';
import BenchPages from './BenchPages.vue';
import CustomerPage from './CustomerPage.vue';
import DecidedPage from './DecidedPage.vue';
import PrintTools from './PrintTools.vue';
import { usePaper } from './usePaper';
import { useReport } from './useReport';
import { shareAsOneFile } from './oneFile';
import SecondHalfPage from './SecondHalfPage.vue';
import SheetsPage from './SheetsPage.vue';
import TogetherSection from './TogetherSection.vue';
import TechnicalPage from './TechnicalPage.vue';
import { jobMadeJobFile } from '@/report/words';

/** The page that the customer takes along, and the technical page behind it. */
const props = defineProps<{ id: string }>();
const { job, file, report, pending, error, again } = useReport(toRef(props, 'id'));
const made = computed(() =>
  file.value && report.value ? jobMadeJobFile(file.value.job.number, report.value.hash) : '',
);
const { paper } = usePaper(() => made.value);
const printed = useTemplateRef<HTMLElement>('printed');
/** The customer's page alone, or with the technician's pages behind it: in the address, to be shared. */
const route = useRoute();
const all = computed(() => route.query.pages === 'all');
const sharing = ref(false);
async function share() {
  if (!printed.value || !file.value) return;
  sharing.value = true;
  await shareAsOneFile(printed.value, `job-${file.value.job.number}-report.html`);
  sharing.value = false;
}
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
</script>

<template>
  <StateLine v-if="!file || !report" :loading="pending" :error="error" @again="again" />
  <main v-else>
    <PrintTools v-model:paper="paper">
      <RouterLink class="side-act" :to="`/jobs/${id}/prove`">Back to job</RouterLink>
      <RouterLink class="side-act" :to="all ? { query: {} } : { query: { pages: 'all' } }" replace>{{
        all ? 'Show customer page only' : 'Add technical pages'
      }}</RouterLink>
      <RouterLink class="side-act" :to="`/jobs/${id}/labels`">Labels</RouterLink>
      <a class="side-act" :href="`/api/jobs/${id}/export.json`" download>Export job (JSON)</a>
      <a class="side-act" :href="`/api/jobs/${id}/readings.csv`" download>Export readings (CSV)</a>
      <button class="side-act" type="button" :disabled="sharing" @click="share">Save share file</button>
    </PrintTools>
    <div ref="printed" class="printed">
      <CustomerPage :job="job" :report="report" />
      <template v-if="all">
        <DecidedPage :positions="report?.positions ?? []" />
        <TechnicalPage v-for="one in tests" :key="one.test.id" :test="one.test" :verdict="one.verdict" />
        <TogetherSection />
        <SheetsPage />
        <BenchPages />
        <SecondHalfPage :report="report" />
      </template>
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
.hash {
  max-width: 900px;
  margin: 0 auto 30px;
  font-size: 0.75rem;
  overflow-wrap: anywhere;
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
