<script setup lang="ts">
import { computed, ref } from 'vue';
import { refusal } from '@/api/client';
import type { PlanStep } from '@/api/types';
import CautionList from '@/job/CautionList.vue';
import { useJob } from '@/job/useJob';
import { moment } from '@/domain/time';
import StageChecks from '@/sheet/StageChecks.vue';
import StripFrame from '@/strip/StripFrame.vue';
import StripRow from '@/strip/StripRow.vue';
import { useRepeat } from '@/returntest/useRepeat';
import SideRows from './SideRows.vue';
import SideTable from './SideTable.vue';

/** Two injectors change places; the test that named one is repeated; what it means. */
const job = useJob();
const view = computed(() => job.view.value!);
const chosen = ref<number[]>([]);
const wrong = ref('');
const swap = computed(() => view.value.swaps.at(-1));
const swapped = computed(() =>
  (view.value.file.events ?? []).find((one) => one.id === view.value.current.swapped),
);
const step = computed<PlanStep | undefined>(() => view.value.plan.steps.find((one) => one.id === 'swap'));
const moved = (cylinder: number) => {
  const seat = view.value.seats.find((one) => one.cylinder === cylinder);
  return seat && seat.came_from !== cylinder ? `from ${seat.came_from}` : '';
};
function pick(cylinder: number) {
  chosen.value = chosen.value.includes(cylinder)
    ? chosen.value.filter((one) => one !== cylinder)
    : [...chosen.value, cylinder].slice(-2);
}
async function record() {
  const [one, other] = chosen.value;
  try {
    await job.happened({ what: 'swapped', one: one!, other: other! });
    chosen.value = [];
    wrong.value = '';
  } catch (error) {
    wrong.value = refusal(error).fields[0]?.message ?? refusal(error).message;
  }
}
/** Refused, with words, once something rests on it. */
async function undo() {
  try {
    await job.happened({ what: 'swap_undone', of: swapped.value!.id, reason: 'recorded by mistake' });
    wrong.value = '';
  } catch (error) {
    wrong.value = refusal(error).message;
  }
}
const repeat = useRepeat(job);
const WORD = { follows: 'Follows', stays: 'Stays', unclear: 'Inconclusive' };
</script>

<template>
  <main class="bench-page swap">
    <StageChecks stage="on_engine" />
    <aside aria-label="Record" class="left">
      <h2>Swap two injectors</h2>
      <p class="muted small">
        Tap the two columns whose injectors were swapped. Labels move along; then repeat the test that pointed
        to one, under the same conditions.
      </p>
      <CautionList :cautions="step?.cautions ?? []" :brief="!!swapped" />
      <button class="main-act" type="button" :disabled="chosen.length !== 2" @click="record">
        {{ chosen.length === 2 ? `Record ${chosen[0]} and ${chosen[1]} swapped` : 'Tap two columns' }}
      </button>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <template v-if="swapped">
        <p class="muted small">
          Last swapped {{ moment(swapped.signed.at) }} by {{ job.person(swapped.signed.by) }}.
        </p>
        <button v-if="repeat.due.value" class="main-act" type="button" @click="repeat.prepare">
          Prepare repeat, same setup
        </button>
        <button class="link-act" type="button" @click="undo">Undo swap</button>
      </template>
    </aside>
    <section class="centre" aria-label="Swap">
      <div v-if="swap" class="answer" :class="swap.says" role="status">
        <p class="word">{{ WORD[swap.says] }}</p>
        <div>
          <p class="headline">{{ swap.headline }}</p>
          <p>{{ swap.next }}</p>
        </div>
      </div>
      <p v-else-if="swapped" class="bench-finding" role="status">
        <strong>Swapped.</strong> Now repeat that test: both are shown side by side here.
      </p>
      <StripFrame
        :banks="view.banks"
        :first-at="view.file.job.intake.layout.first_at"
        :labels="job.labels.value"
        :selected="null"
        @select="pick"
      >
        <StripRow word="swap">
          <template #default="{ cylinder }">
            <button
              class="pick"
              type="button"
              :aria-pressed="chosen.includes(cylinder)"
              :aria-label="`Choose cylinder ${cylinder}`"
              @click="pick(cylinder)"
            >
              {{ chosen.includes(cylinder) ? '⇄' : moved(cylinder) || '·' }}
            </button>
          </template>
        </StripRow>
        <SideRows v-if="swap" :swap="swap" />
      </StripFrame>
      <SideTable v-if="view.side_by_side" :side="view.side_by_side" />
    </section>
    <aside aria-label="Because" class="right">
      <template v-if="swap">
        <h2>Because</h2>
        <ol>
          <li v-for="(reason, i) in swap.because" :key="i">
            {{ reason.says }} <code v-if="reason.arithmetic">{{ reason.arithmetic }}</code>
          </li>
        </ol>
      </template>
      <p v-else class="muted">
        Follows the injector: it is the injector. Stays with the cylinder: line, wiring or the cylinder. The
        disturbance itself changes the numbers, so compare patterns, not decimals.
      </p>
    </aside>
  </main>
</template>

<style scoped>
.answer {
  display: flex;
  gap: 20px;
  align-items: center;
  border: 3px solid var(--ink);
  border-left-width: 14px;
  background: var(--sheet);
  padding: 12px 18px;
  margin-bottom: 8px;
}
.answer.follows {
  border-color: var(--too-much);
}
.answer.stays {
  border-color: var(--too-little);
}
.answer.unclear {
  border-color: var(--undecided);
}
.word {
  font-size: 2.4rem;
  font-weight: 700;
  line-height: 1.1;
}
.headline {
  font-weight: 700;
  font-size: 1.1rem;
}
.pick {
  width: calc(100% - 12px);
  margin: 4px 6px;
  min-height: 52px;
  border: 2px solid var(--edge);
  border-radius: 8px;
  background: var(--sheet);
  cursor: pointer;
}
.pick[aria-pressed='true'] {
  background: var(--act);
  color: var(--act-ink);
  font-size: 1.6rem;
}
ol {
  list-style: none;
  margin: 10px 0 0;
  padding: 0;
  display: grid;
  gap: 10px;
}
code {
  display: block;
  font: inherit;
  border-left: 4px solid var(--act);
  padding-left: 12px;
}
</style>
