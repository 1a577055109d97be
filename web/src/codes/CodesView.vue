<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import CautionList from '@/job/CautionList.vue';
import { newId } from '@/domain/identity';
import StateLine from '@/shell/StateLine.vue';
import { useKeys } from '@/shell/useKeys';
import { cylinderKeys } from '@/strip/cylinderKeys';
import InjectorMark from '@/strip/InjectorMark.vue';
import StripFrame from '@/strip/StripFrame.vue';
import StripRow from '@/strip/StripRow.vue';
import type { Mark, SlotState } from '@/api/types';
import RefitTabs from '@/refit/RefitTabs.vue';
import { SLOT } from '@/words';
import CaptureForm from './CaptureForm.vue';
import HandCodes from './HandCodes.vue';
import UnitCount from './UnitCount.vue';
import UnitKnobs from './UnitKnobs.vue';
import WritePanel from './WritePanel.vue';
import { useCodes } from './useCodes';

/** Codes: what is stored in the control unit, what stands on the bodies, and what is written where. */
const { job, query, view, wrong, busy, capture, read, write, knob } = useCodes();
const banks = computed(() => job.view.value!.banks);
const coding = computed(() => view.value?.coding);
const at = (cylinder: number) => coding.value?.slots.find((one) => one.cylinder === cylinder);
/** The unit counts otherwise than the maker numbers cylinders: then its numbers are drawn. */
const otherwise = computed(() => coding.value?.slots.some((one) => one.number !== one.cylinder));
const tapped = ref<number | null>(null);
const missing = computed(() => banks.value.flat().find((cylinder) => !at(cylinder)?.own));
/** The cylinder that something is wrong at: the page opens on it. */
const concerned = computed(() => coding.value?.slots.find((one) => WRONG.includes(one.state))?.cylinder);
const selected = computed(() => tapped.value ?? missing.value ?? concerned.value ?? null);
const WRONG: SlotState[] = ['elsewhere', 'differs', 'not_known', 'empty'];
const MARK: Record<SlotState, Mark> = {
  fits: 'inside',
  differs: 'look',
  elsewhere: 'questioned',
  empty: 'look',
  not_known: 'undecided',
  not_read: 'not_measured',
  not_captured: 'not_measured',
};
// What was refused was about another injector.
watch(selected, () => (wrong.value = undefined));
/** What the bench made or captured goes to the injectors that it was made for. */
async function take() {
  for (const one of view.value?.bench ?? [])
    await capture({
      id: newId(),
      injector: one.injector,
      typed: one.code,
      again: null,
      how: 'bench',
    });
}
useKeys(cylinderKeys(banks.value.flat().length, (cylinder) => (tapped.value = cylinder)));
</script>

<template>
  <StateLine
    v-if="!view || !coding"
    :loading="query.isPending.value"
    :error="query.error.value"
    @again="query.refetch()"
  />
  <main v-else class="strip-page">
    <section class="strip-part">
      <RefitTabs />
      <p class="bench-finding" role="status">
        <strong>{{ coding.says }}</strong>
        <span v-for="one in coding.warnings" :key="one" class="flag">{{ one }}</span>
      </p>
      <StripFrame
        v-if="coding.coded"
        :banks="banks"
        :first-at="job.view.value!.file.job.intake.layout.first_at"
        :labels="job.labels.value"
        :selected="selected"
        @select="tapped = $event"
      >
        <StripRow word="ECU position">
          <template #default="{ cylinder }">
            <p class="state">
              <InjectorMark :mark="MARK[at(cylinder)?.state ?? 'not_read']" :size="34" silent />
              <span>{{ SLOT[at(cylinder)?.state ?? 'not_read'] }}</span>
            </p>
          </template>
        </StripRow>
        <StripRow v-if="otherwise" word="ECU number">
          <template #default="{ cylinder }">
            <p class="code number">{{ at(cylinder)?.number }}</p>
          </template>
        </StripRow>
        <StripRow word="on body">
          <template #default="{ cylinder }">
            <p class="code">
              {{ at(cylinder)?.own ?? '–' }}
              <span v-if="at(cylinder) && at(cylinder)!.came_from !== cylinder" class="from"
                >{{ at(cylinder)!.came_from }}→{{ cylinder }}</span
              >
            </p>
          </template>
        </StripRow>
        <StripRow word="stored now">
          <template #default="{ cylinder }">
            <p class="code" :class="{ off: at(cylinder)?.own && at(cylinder)?.stored !== at(cylinder)?.own }">
              {{ at(cylinder)?.state === 'not_known' ? '?' : (at(cylinder)?.stored ?? '–') }}
            </p>
          </template>
        </StripRow>
        <StripRow word="as found">
          <template #default="{ cylinder }">
            <p class="code muted">{{ at(cylinder)?.found ?? '–' }}</p>
          </template>
        </StripRow>
      </StripFrame>
      <p v-if="selected && at(selected)" class="says muted">
        Cylinder {{ selected }}: {{ at(selected)!.says }}
      </p>
      <CautionList class="near" :cautions="view.cautions" :brief="coding.read" />
    </section>
    <aside v-if="coding.coded" aria-label="Capture and write">
      <p v-if="!view.unit" class="caution">
        No ECU is connected here. Capture the trim codes, write them with another tool, and type what it reads
        back.
      </p>
      <button
        v-else
        class="side-act"
        :class="{ 'main-act': !coding.read }"
        type="button"
        :disabled="busy"
        @click="read"
      >
        {{ coding.read ? 'Read stored codes again' : 'Read stored codes' }}
      </button>
      <button v-if="view.bench.length" class="side-act" type="button" :disabled="busy" @click="take">
        Take {{ view.bench.length }} trim {{ view.bench.length === 1 ? 'code' : 'codes' }} from the bench
      </button>
      <CaptureForm
        v-if="selected && at(selected)"
        :key="selected"
        :slot-view="at(selected)!"
        :wrong="wrong"
        :capture="capture"
        @kept="tapped = null"
      />
      <HandCodes :slots="coding.slots" :read="coding.read" @kept="query.refetch()" />
      <WritePanel
        v-if="view.unit && coding.read"
        :coding="coding"
        :writing="view.writing"
        :busy="busy"
        @write="write"
      />
      <p v-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
      <UnitCount v-if="view.unit" :slots="coding.slots" />
      <RouterLink
        v-if="selected && at(selected)"
        class="side-act"
        :to="`/passports/${at(selected)!.injector}`"
        >History of {{ at(selected)!.label || `cylinder ${selected}` }}</RouterLink
      >
      <UnitKnobs v-if="view.stand_in" @turn="knob" />
    </aside>
  </main>
</template>

<style scoped>
.state {
  display: grid;
  justify-items: center;
  padding: 6px 2px;
  text-align: center;
  font-size: clamp(0.7rem, calc(15 * var(--cell)), 1rem);
}
.code {
  padding: 8px min(10px, calc(8 * var(--cell)));
  font-size: clamp(0.68rem, calc(14 * var(--cell)), 1.25rem);
  font-weight: 700;
  overflow-wrap: anywhere;
}
.code.number {
  text-align: center;
  color: var(--look);
}
.code.muted {
  font-weight: 400;
}
.off {
  color: var(--too-much);
}
.from {
  display: block;
  color: var(--act);
}
.says {
  padding: 10px 14px;
}
.near {
  margin-left: 14px;
}
</style>
