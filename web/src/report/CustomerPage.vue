<script setup lang="ts">
import { computed } from 'vue';
import type { ReportView } from '@/api/types';
import { moment } from '@/domain/time';
import TrailLines from '@/job/TrailLines.vue';
import type { JobHandle } from '@/job/useJob';
import ReturnColumns from '@/returntest/ReturnColumns.vue';
import InjectorMark from '@/strip/InjectorMark.vue';
import StripFrame from '@/strip/StripFrame.vue';
import StripRow from '@/strip/StripRow.vue';
import { DECISION, SYMPTOM } from '@/words';
import { useProfile } from '@/start/useProfile';
import CustomerHalves from './CustomerHalves.vue';
import { nothingMeasured } from '@/report/words';

/** The page that the customer takes along: what was found, done and proven, and what it comes to. */
const props = defineProps<{ job: JobHandle; report: ReportView }>();
const view = computed(() => props.job.view.value!);
const file = computed(() => props.job.view.value!.file);
const repeats = computed(() => props.report.proof.repeats);
/** The return test that somebody was condemned by. */
const returned = computed(() => repeats.value.find((one) => one.return_test != null));
/** What was found: the test that failed, where it was repeated since; else the newest. */
const verdict = computed(() => {
  const failed = returned.value?.return_test;
  return failed == null ? props.job.judged.value : props.job.view.value?.verdicts[failed];
});
const after = computed(() => repeats.value.find((one) => one.after_at));
const repeated = (cylinder: number) => after.value?.lanes.find((one) => one.cylinder === cylinder);
/** What the bench says stands where it was read last, or where nothing else was. */
const bench = computed(() => {
  const found = props.job.view.value?.bench;
  return found && (found.newest || !verdict.value) ? found : undefined;
});
/** The workshop heads its own reports. */
const { profile: own } = useProfile();
/** The proof has begun: what comes next stands there. */
const proving = computed(() => props.report.proof.items.some((one) => one.signed) ?? false);
const lane = (cylinder: number) =>
  bench.value?.lanes.find((one) => one.cylinder === cylinder) ??
  verdict.value?.lanes.find((one) => one.place === cylinder);
/** What condemned somebody, else what the job says by now. */
const headline = computed(
  () => (returned.value && verdict.value?.headline) || view.value.now.headline || nothingMeasured,
);
</script>

<template>
  <article class="page customer">
    <header>
      <div class="own">
        <img v-if="own?.logo" :src="own.logo" alt="" />
        <p class="mark-name">{{ own?.name || 'cobaltine' }}</p>
        <p v-if="own?.address" class="address small">{{ own.address }}</p>
      </div>
      <div>
        <h1>{{ file.job.intake.machine }}</h1>
        <p>
          {{ file.job.intake.engine }}<template v-if="file.family">, {{ file.family }}</template
          ><template v-if="view.usage">, {{ view.usage }}</template>
        </p>
      </div>
      <p class="right">
        Job {{ file.job.number }}<br />{{ file.job.intake.customer }}<br />{{ moment(file.job.taken_in.at) }}
      </p>
    </header>
    <p class="complaint">
      {{ file.job.intake.symptoms.map((one) => SYMPTOM[one]).join(', ') }}.
      {{ file.job.intake.complaint }}
    </p>
    <TrailLines :view="job.view.value!" report />
    <p class="finding">
      <strong>{{ report.plain.stands }}</strong>
      <span v-if="!proving && report.step.stage !== 'decide'"> Next: {{ report.step.title }}. </span>
      <span v-if="report.proof.closing.closed">
        {{ job.person(report.proof.closing.closed.by) }}, {{ moment(report.proof.closing.closed.at) }}.
      </span>
    </p>
    <p><strong>Found:</strong> {{ headline }}</p>
    <StripFrame
      :banks="job.view.value!.banks"
      :first-at="file.job.intake.layout.first_at"
      :labels="verdict ? job.labelsThen(returned?.return_test) : job.labels.value"
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
    <CustomerHalves :report="report" />
    <p v-for="one in report.overtaken" :key="one.cylinder" class="stands">
      <strong>Cylinder {{ one.cylinder }}:</strong> {{ one.says }}
    </p>
    <footer>
      <p class="signature">Signed</p>
      <p class="muted small">
        Readings, limits and reasons are on the technical pages. An aid to trained staff: maker’s
        instructions, local regulations and the law come first.
      </p>
    </footer>
  </article>
</template>

<style scoped>
.own {
  max-width: 230px;
}
.own img {
  max-height: 60px;
  max-width: 200px;
  display: block;
  margin-bottom: 4px;
}
.address {
  white-space: pre-line;
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
.stands > span {
  margin-left: 8px;
}
.stands {
  border-top: 3px solid var(--ink);
  padding-top: 8px;
}
.signature {
  border-bottom: 1px solid var(--ink);
  width: 260px;
  padding-top: 26px;
  margin-bottom: 8px;
}
@media print {
  /* One sheet for the customer. */
  .customer {
    font-size: 9pt;
    gap: 6px;
    line-height: 1.3;
  }
  .customer :deep(.strip) {
    zoom: 0.82;
  }
  .customer .small {
    font-size: 8.5pt;
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
}
</style>
