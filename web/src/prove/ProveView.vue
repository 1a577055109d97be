<script setup lang="ts">
import { computed } from 'vue';
import type { ProofItem } from '@/api/types';
import { moment } from '@/domain/time';
import StateLine from '@/shell/StateLine.vue';
import InjectorMark from '@/strip/InjectorMark.vue';
import StripFrame from '@/strip/StripFrame.vue';
import StripRow from '@/strip/StripRow.vue';
import CloseBox from './CloseBox.vue';
import DrivePanel from './DrivePanel.vue';
import { PLACE_PROOF } from '@/words';
import ProofRow from './ProofRow.vue';
import { useProof } from './useProof';

/** Proof: the failed test before and after in the columns of the strip, and what has to have happened. */
const { job, query, view, wrong, busy, step, tell, seen, knob } = useProof();
const banks = computed(() => job.view.value!.banks);
const proof = computed(() => view.value?.proof);
const repeats = computed(() => proof.value?.repeats ?? []);
type Repeat = (typeof repeats.value)[number];
const lane = (of: Repeat, cylinder: number) => of.lanes.find((one) => one.cylinder === cylinder);
/** The first test that still has to be repeated. */
const repeat = computed(
  () =>
    repeats.value.find((one) => one.lanes.some((at) => at.proof && at.proof !== 'proven')) ??
    repeats.value[0],
);
/** The complaint is still there; what was noted of it is kept with the road test. */
async function left(answer: 'better' | 'same', note: string) {
  if (note && !(await tell({ what: 'proved', item: 'road_test', told: 'failed', note }))) return;
  await tell({ what: 'complaint_asked', answer });
}
/** Where something that the program sees for itself is done. */
function where({ id, state, asks_complaint }: ProofItem): string | undefined {
  const at = `/jobs/${job.id.value}`;
  if (id === 'fitting') return `${at}/refit`;
  if (id === 'codes') return `${at}/refit/codes`;
  // The complaint is still there: the search goes on.
  if (asks_complaint) return state === 'failed' ? `${at}/decide` : undefined;
  const figure = proof.value?.figures.some((one) => one.state === 'open');
  if (id === 'failed_test' && figure) return `${at}/rule-out/complaint_figure`;
  if (id !== 'failed_test' || !repeat.value) return undefined;
  if (repeat.value.on_bench) return `${at}/bench`;
  return repeat.value.check ? `${at}/on-engine/${repeat.value.check}` : `${at}/on-engine`;
}
</script>

<template>
  <StateLine
    v-if="!view || !proof"
    :loading="query.isPending.value"
    :error="query.error.value"
    @again="query.refetch()"
  />
  <main v-else class="strip-page">
    <section class="strip-part">
      <p class="bench-finding" role="status">
        <strong>{{ proof.says }}</strong>
        <span v-if="proof.closing.came_back" class="flag">Came back: {{ proof.closing.came_back }}</span>
        <span v-for="one in proof.closing.since" :key="one" class="flag">Since closing: {{ one }}</span>
      </p>
      <template v-for="one in repeats" :key="one.test + one.before_at">
        <StripFrame
          :banks="banks"
          :first-at="job.view.value!.file.job.intake.layout.first_at"
          :labels="job.labels.value"
        >
          <StripRow word="before">
            <template #default="{ cylinder }">
              <p class="shown" :data-mark="lane(one, cylinder)?.before_mark">
                <InjectorMark :mark="lane(one, cylinder)?.before_mark ?? 'not_measured'" :size="30" silent />
                <span>{{ lane(one, cylinder)?.before || '–' }}</span>
                <span v-if="lane(one, cylinder)?.was" class="was">{{ lane(one, cylinder)!.was }}</span>
              </p>
            </template>
          </StripRow>
          <StripRow word="after">
            <template #default="{ cylinder }">
              <p class="shown after" :data-mark="lane(one, cylinder)?.after_mark">
                <InjectorMark :mark="lane(one, cylinder)?.after_mark ?? 'not_measured'" :size="40" silent />
                <strong>{{ lane(one, cylinder)?.after || 'not yet' }}</strong>
                <span v-if="lane(one, cylinder)?.proof" class="was">{{
                  PLACE_PROOF[lane(one, cylinder)!.proof!]
                }}</span>
              </p>
            </template>
          </StripRow>
        </StripFrame>
        <p class="alike muted">
          {{ one.test }}<template v-if="one.unit">, {{ one.unit }}</template
          >: failed {{ moment(one.before_at)
          }}<template v-if="one.after_at">, repeated {{ moment(one.after_at) }}</template
          >. {{ one.alike }}
        </p>
      </template>
      <p v-for="one in proof.figures" :key="one.name" class="alike figure">
        {{ one.name }} <strong>{{ one.before }}</strong> → <strong>{{ one.after ?? 'not yet' }}</strong>
        <span class="unit"> {{ one.unit }}</span>
      </p>
      <p v-if="proof.places.length" class="alike">
        <span v-for="one in proof.places" :key="one.cylinder"
          >Cylinder {{ one.cylinder }}: {{ PLACE_PROOF[one.proof] }}.&#32;</span
        >
      </p>
      <ol class="items">
        <ProofRow
          v-for="item in proof.items"
          :key="item.id"
          :item="item"
          :next="item.id === proof.next && !proof.closing.closed"
          :closed="!!proof.closing.closed"
          :unit="view.unit"
          :where="where(item)"
          :by="item.signed ? job.person(item.signed.by) : ''"
          :busy="busy"
          @tell="(told, note) => tell({ what: 'proved', item: item.id, told, note })"
          @left="left"
          @step="step"
        />
      </ol>
    </section>
    <aside aria-label="Close job">
      <CloseBox
        :closing="proof.closing"
        :busy="busy"
        :wrong="wrong?.about('reason')"
        @close="step('close')"
        @tell="tell"
      />
      <p v-if="wrong && !wrong.about('reason')" class="wrong" role="alert">
        {{ wrong.fields[0]?.message ?? wrong.message }}
      </p>
      <DrivePanel
        :learning="proof.learning"
        :unit="view.unit"
        :stand-in="view.stand_in"
        :busy="busy"
        :cylinders="banks.flat()"
        :coded="proof.items.some((item) => item.id === 'cleared')"
        @step="step"
        @knob="knob"
        @seen="seen"
      />
      <RouterLink class="side-act" :to="`/jobs/${job.id.value}/report`">Report and labels</RouterLink>
      <RouterLink class="side-act" :to="`/jobs/${job.id.value}/prove/notes`">Notes</RouterLink>
    </aside>
  </main>
</template>

<style scoped>
.shown {
  display: grid;
  justify-items: center;
  padding: 6px 2px;
  font-size: clamp(0.7rem, calc(16 * var(--cell)), 1.15rem);
}
.after {
  font-size: clamp(0.8rem, calc(20 * var(--cell)), 1.7rem);
}
.was {
  font-size: 0.78rem;
  color: var(--muted);
}
.alike {
  padding: 6px 14px 0;
}
.figure strong {
  font-size: 1.5rem;
}
.items {
  list-style: none;
  margin: 10px 0 0 14px;
  padding: 0;
}
</style>
