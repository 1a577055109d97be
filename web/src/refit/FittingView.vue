<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { Fitting, FitStep } from '@/api/types';
import { moment } from '@/domain/time';
import CautionList from '@/job/CautionList.vue';
import StateLine from '@/shell/StateLine.vue';
import { useKeys } from '@/shell/useKeys';
import { cylinderKeys } from '@/strip/cylinderKeys';
import InjectorMark from '@/strip/InjectorMark.vue';
import StripFrame from '@/strip/StripFrame.vue';
import StripRow from '@/strip/StripRow.vue';
import AnotherInjector from './AnotherInjector.vue';
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
type Row = Fitting['steps'][number];
const tick = (row: Row, cylinder: number) => row.ticks.find((one) => one.cylinder === cylinder);
const left = (row: Row) => card.value!.out.filter((cylinder) => !tick(row, cylinder));
const name = (row: Row, cylinder: number) => {
  const held = tick(row, cylinder);
  return held ? job.person(held.signed.by) || 'ticked' : '';
};
const seat = (cylinder: number) => view.value.seats.find((one) => one.cylinder === cylinder)?.injector;
function turn(row: Row, cylinder: number) {
  tapped.value = cylinder;
  const fitted = { step: row.step as FitStep, cylinders: [cylinder], done: !tick(row, cylinder) };
  void tell({ what: 'fitted', ...fitted });
}
const all = (row: Row) => tell({ what: 'fitted', step: row.step, cylinders: left(row), done: true });
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
        <template v-for="row in card.steps" :key="row.step">
          <p class="step">
            <strong>{{ row.word }}</strong>
            <strong v-if="row.step === 'torque' && card.tightening.known" class="figure">{{
              card.tightening.stages.join(', then ')
            }}</strong>
            <span v-else class="muted">{{ row.why }}</span>
          </p>
          <StripRow>
            <template #gutter>
              <button
                v-if="left(row).length > 1"
                class="all"
                type="button"
                :aria-label="`${row.word}: all that were out`"
                @click="all(row)"
              >
                all {{ left(row).length }}
              </button>
            </template>
            <template #default="{ cylinder }">
              <button
                class="tick"
                type="button"
                :class="{ out: card.out.includes(cylinder), done: tick(row, cylinder) }"
                :aria-pressed="!!tick(row, cylinder)"
                :aria-label="`${row.word}, cylinder ${cylinder}`"
                @click="turn(row, cylinder)"
              >
                <InjectorMark
                  v-if="tick(row, cylinder) || card.out.includes(cylinder)"
                  :mark="tick(row, cylinder) ? 'inside' : 'not_measured'"
                  :size="28"
                  silent
                />
                <span v-else class="stays">{{ row === card.steps[0] ? 'stays in' : '·' }}</span>
                <span v-if="tick(row, cylinder)" class="by">{{ name(row, cylinder) }}</span>
              </button>
            </template>
          </StripRow>
        </template>
      </StripFrame>
    </section>
    <aside>
      <RouterLink
        v-if="card.done && card.out.length"
        class="main-act"
        :to="`/jobs/${job.id.value}/refit/codes`"
        >Go on to the codes</RouterLink
      >
      <section v-if="card.parts.length" class="due">
        <h2>Parts due</h2>
        <p v-for="part in card.parts" :key="part.name">
          <strong>{{ part.count }} ×</strong> {{ part.name }}
        </p>
      </section>
      <TightenPart :tightening="card.tightening" :wrong="wrong" :keep="tighten" />
      <section v-if="card.troubles.length" class="troubles">
        <h2>Found</h2>
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
        >Passport of {{ job.labels.value[selected] || `cylinder ${selected}` }}</RouterLink
      >
      <p v-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
    </aside>
  </main>
</template>

<style scoped>
.before {
  margin: 6px 14px 0;
}
.step {
  padding: 8px 8px 0 12px;
  border-top: 1px solid var(--line);
  line-height: 1.25;
}
.all,
.tick {
  min-height: 48px;
  border: 0;
  background: none;
  cursor: pointer;
}
.all {
  color: var(--act);
  text-decoration: underline;
  padding: 0 2px;
}
.tick {
  width: 100%;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: center;
  gap: 0 6px;
  color: var(--muted);
}
.tick.out {
  color: var(--ink);
  box-shadow: inset 0 0 0 2px var(--edge);
  border-radius: 8px;
}
.step > * + * {
  margin-left: 8px;
}
.figure {
  color: var(--act);
}
.tick.done {
  color: var(--inside);
  box-shadow: none;
}
.by,
.stays {
  font-size: clamp(0.62rem, calc(11 * var(--cell)), 0.9rem);
  overflow-wrap: anywhere;
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
