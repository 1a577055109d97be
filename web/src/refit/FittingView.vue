<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { moment } from '@/domain/time';
import CautionList from '@/job/CautionList.vue';
import StateLine from '@/shell/StateLine.vue';
import { useKeys } from '@/shell/useKeys';
import { cylinderKeys } from '@/strip/cylinderKeys';
import StripFrame from '@/strip/StripFrame.vue';
import AnotherInjector from './AnotherInjector.vue';
import FitRow from './FitRow.vue';
import FoundTrouble from './FoundTrouble.vue';
import RefitTabs from './RefitTabs.vue';
import TightenPart from './TightenPart.vue';
import { useFitting } from './useFitting';

/** The fitting card: steps down, cylinders across, each tick with the name of who made it. */
const { job, query, card, wrong, tell, tighten } = useFitting();
const view = computed(() => job.view.value!);
const tapped = ref<number | null>(null);
const selected = computed(() => tapped.value ?? card.value?.open[0] ?? null);
// What was refused was about another cylinder.
watch(tapped, () => (wrong.value = undefined));
const seat = (cylinder: number) => view.value.seats.find((one) => one.cylinder === cylinder)?.injector;
// No key ticks: a scanner that types into this view must not tick what nobody did.
useKeys(cylinderKeys(view.value.banks.flat().length, (cylinder) => (tapped.value = cylinder)));
</script>

<template>
  <StateLine
    v-if="!card"
    :loading="query.isPending.value"
    :error="query.error.value"
    @again="query.refetch()"
  />
  <main v-else class="strip-page">
    <section class="strip-part">
      <RefitTabs />
      <p class="bench-finding" role="status">
        <strong>{{ card.says }}</strong>
      </p>
      <CautionList class="before" :cautions="card.cautions" brief />
      <StripFrame
        :banks="view.banks"
        :first-at="view.file.job.intake.layout.first_at"
        :labels="job.labels.value"
        :selected="selected"
        @select="tapped = $event"
      >
        <FitRow
          v-for="row in card.steps"
          :key="row.step"
          :job="job"
          :card="card"
          :row="row"
          :tell="tell"
          @tapped="tapped = $event"
        />
      </StripFrame>
    </section>
    <aside aria-label="Fitting details">
      <RouterLink
        v-if="card.done && card.out.length"
        class="main-act"
        :to="`/jobs/${job.id.value}/refit/codes`"
        >Go to trim codes</RouterLink
      >
      <section v-if="card.parts.length" class="due">
        <h2>New parts</h2>
        <p v-for="part in card.parts" :key="part.name">
          <strong>{{ part.count }} ×</strong> {{ part.name }}
        </p>
      </section>
      <TightenPart :tightening="card.tightening" :wrong="wrong" :keep="tighten" />
      <section v-if="card.troubles.length" class="troubles">
        <h2>Faults found</h2>
        <p v-for="(one, i) in card.troubles" :key="i">
          <strong>Cylinder {{ one.cylinder }}: {{ one.word }}.</strong> {{ one.note }} {{ one.advice }}
          <span class="muted small">{{ job.person(one.signed.by) }}, {{ moment(one.signed.at) }}</span>
        </p>
      </section>
      <FoundTrouble v-if="selected" :key="`t${selected}`" :cylinder="selected" :wrong="wrong" :tell="tell" />
      <AnotherInjector
        v-if="selected"
        :key="`a${selected}`"
        :cylinder="selected"
        :wrong="wrong"
        :tell="tell"
      />
      <RouterLink v-if="selected" class="side-act" :to="`/passports/${seat(selected)}`"
        >History of {{ job.labels.value[selected] || `cylinder ${selected}` }}</RouterLink
      >
      <p v-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
    </aside>
  </main>
</template>

<style scoped>
.before {
  margin: 6px 14px 0;
}
.due p strong {
  font-size: 1.3rem;
}
.troubles p {
  border-left: 5px solid var(--look);
  padding-left: 10px;
  margin-top: 6px;
}
</style>
