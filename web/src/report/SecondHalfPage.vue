<script setup lang="ts">
import { computed } from 'vue';
import type { ReportView } from '@/api/types';
import { moment } from '@/domain/time';
import { useJob } from '@/job/useJob';
import InjectorMark from '@/strip/InjectorMark.vue';
import { PROOF, SLOT } from '@/words';

/** Fitting, codes, proof and signatures: the second half of the job, by name and time. */
const props = defineProps<{ report: ReportView }>();
const job = useJob();
const fitting = computed(() => props.report.fitting);
const coding = computed(() => props.report.coding);
const proof = computed(() => props.report.proof);
const ticked = computed(() => fitting.value.steps.filter((step) => step.ticks.length));
const by = (signed: { by: string; at: string }) => `${job.person(signed.by)}, ${moment(signed.at)}`;
const begun = computed(
  () => ticked.value.length || coding.value || proof.value.items.some((one) => one.signed),
);
const deciders = computed(() => [
  ...new Set((job.view.value?.file.decisions ?? []).map((one) => job.person(one.signed.by))),
]);
</script>

<template>
  <article v-if="begun" class="page">
    <h2>Refit, codes and proof</h2>
    <section v-if="ticked.length">
      <h3>Fitting of {{ fitting.out.join(', ') }}</h3>
      <p v-for="step in ticked" :key="step.step" class="line">
        <strong>{{ step.word }}:</strong>
        {{ step.ticks.map((one) => `${one.cylinder} ${by(one.signed)}`).join('; ') }}
      </p>
      <p v-if="fitting.tightening.known">
        <strong>Tightened:</strong> {{ fitting.tightening.stages.join('; ') }}.
        {{ fitting.tightening.source }}
      </p>
      <p v-for="(one, i) in fitting.troubles" :key="i">
        <strong>Found at {{ one.cylinder }}: {{ one.word }}.</strong> {{ one.note }} ({{ by(one.signed) }})
      </p>
    </section>
    <table v-if="coding">
      <caption>
        Trim codes
      </caption>
      <thead>
        <tr>
          <th scope="col">Cylinder</th>
          <th scope="col">Injector</th>
          <th scope="col">As found</th>
          <th scope="col">Stored now</th>
          <th scope="col">On body</th>
          <th scope="col">State</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="slot in coding.slots" :key="slot.cylinder">
          <td>{{ slot.cylinder }}</td>
          <td>{{ slot.label }}</td>
          <td>{{ slot.found ?? '–' }}</td>
          <td>{{ slot.state === 'not_known' ? 'not known' : (slot.stored ?? '–') }}</td>
          <td>{{ slot.own ?? '–' }}</td>
          <td>{{ SLOT[slot.state] }}</td>
        </tr>
      </tbody>
    </table>
    <table v-for="repeat in proof.repeats" :key="repeat.test + repeat.before_at">
      <caption>
        {{
          repeat.test
        }}
        repeated.
        {{
          repeat.alike
        }}
      </caption>
      <thead>
        <tr>
          <th scope="col">Cylinder</th>
          <th scope="col">Before {{ repeat.unit }}</th>
          <th scope="col">After {{ repeat.unit }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="lane in repeat.lanes" :key="lane.cylinder">
          <td>{{ lane.cylinder }}</td>
          <td>
            <InjectorMark :mark="lane.before_mark" :size="18" silent /> {{ lane.before
            }}<template v-if="lane.was"> ({{ lane.was }})</template>
          </td>
          <td>
            <InjectorMark :mark="lane.after_mark" :size="18" silent /> {{ lane.after || 'not repeated' }}
          </td>
        </tr>
      </tbody>
    </table>

    <table>
      <caption>
        Proof
      </caption>
      <tbody>
        <tr v-for="item in proof.items" :key="item.id">
          <th scope="row">{{ item.title }}</th>
          <td>{{ PROOF[item.state] }}</td>
          <td>
            {{ item.says }} <span v-if="item.signed" class="muted">{{ by(item.signed) }}</span>
          </td>
        </tr>
      </tbody>
    </table>
    <p>
      <strong>{{ proof.says }}</strong>
    </p>
    <p>
      Decided by {{ deciders.join(', ') || 'nobody yet'
      }}<template v-if="report.review"
        >; {{ report.review.signed ? 'signed' : 'returned' }} by {{ job.person(report.review.by) }},
        {{ moment(report.review.at) }}</template
      ><template v-if="proof.closing.closed">; closed by {{ by(proof.closing.closed) }}</template
      >.
    </p>
  </article>
</template>

<style scoped>
section {
  display: grid;
  gap: 3px;
}
</style>
