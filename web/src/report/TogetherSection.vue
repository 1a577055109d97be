<script setup lang="ts">
import { computed } from 'vue';
import { moment } from '@/domain/time';
import { useJob } from '@/job/useJob';
import { signed } from '@/domain/numbers';
import { injectorsSwapped, cylindersClearFloodedSpark } from '@/report/words';

/** What the checks say together: where to look electrically, what a swap said, what was done. */
const job = useJob();
const view = computed(() => job.view.value!);
const done = computed(() => view.value.plan.steps.filter((step) => step.state === 'done' && step.says));
const left = computed(() => view.value.plan.steps.filter((step) => step.state === 'skipped'));
const happened = computed(() =>
  (view.value.file.events ?? []).flatMap((one) => {
    const by = `${job.person(one.signed.by)}, ${moment(one.signed.at)}`;
    if (one.event.what === 'swapped') return [injectorsSwapped(one.event.one, one.event.other, by)];
    return one.event.what === 'cleared' ? [cylindersClearFloodedSpark(by)] : [];
  }),
);
const share = (value: number | null | undefined) => (value == null ? 'not read' : signed(value));
</script>

<template>
  <article v-if="done.length || happened.length" class="page">
    <h2>Combined result of the checks</h2>
    <p v-if="view.electrical">
      <strong>{{ view.electrical.headline }}</strong>
      <template v-for="one in view.electrical.named" :key="one.sentence">{{ ' ' + one.sentence }}</template>
    </p>
    <template v-for="swap in view.swaps" :key="swap.headline">
      <p>
        <strong>{{ swap.headline }}</strong> {{ swap.test }}, against the others:
        <template v-for="(lane, i) in swap.lanes" :key="lane.cylinder"
          >{{ i ? '; ' : '' }}cylinder {{ lane.cylinder }} {{ share(lane.before) }} before,
          {{ share(lane.after) }} after</template
        >.
      </p>
    </template>
    <p v-for="line in happened" :key="line">{{ line }}</p>
    <ul>
      <li v-for="step in done" :key="step.id">
        <strong>{{ step.title }}.</strong> {{ step.says }}
      </li>
      <li v-for="step in left" :key="step.id" class="muted">{{ step.title }}. {{ step.says }}</li>
    </ul>
  </article>
</template>

<style scoped>
ul {
  margin: 0;
  padding-left: 18px;
}
</style>
