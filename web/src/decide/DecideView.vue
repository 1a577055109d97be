<script setup lang="ts">
import { computed, ref } from 'vue';
import { refusal } from '@/api/client';
import type { Decision } from '@/api/types';
import { newId } from '@/domain/identity';
import { moment } from '@/domain/time';
import BecausePanel from '@/job/BecausePanel.vue';
import { useJob } from '@/job/useJob';
import { useKeys } from '@/shell/useKeys';
import InjectorMark from '@/strip/InjectorMark.vue';
import StripFrame from '@/strip/StripFrame.vue';
import StripRow from '@/strip/StripRow.vue';
import { DECISION } from '@/words';
import DecisionForm from './DecisionForm.vue';

/** The judgement call, injector by injector: what is proposed, why, and what a person decides. */
const job = useJob();
const view = computed(() => job.view.value!);
const order = computed(() => view.value.banks.flat());
const verdict = computed(() => job.judged.value);
const lane = (cylinder: number) => verdict.value?.lanes.find((one) => one.cylinder === cylinder);
const open = computed(() => order.value.filter((cylinder) => !job.decision(cylinder)));
const tapped = ref<number | null>(null);
const selected = computed(() => tapped.value ?? open.value[0] ?? order.value[0] ?? 1);
const current = computed(() => lane(selected.value));
const wrong = ref('');
const otherwise = ref(false);
const leaves = computed(() => open.value.filter((c) => lane(c)?.proposal.decision === 'leave'));

async function decide(decisions: { cylinder: number; decision: Decision; reason: string }[]) {
  try {
    const body = { decisions: decisions.map((one) => ({ id: newId(), ...one })) };
    await job.change('POST', `/jobs/${job.id.value}/decisions`, body);
    wrong.value = '';
    otherwise.value = false;
    tapped.value = null;
  } catch (error) {
    wrong.value = refusal(error).about('reason') || refusal(error).message;
  }
}
function agree(cylinders: number[]) {
  const agreed = cylinders.flatMap((cylinder) => {
    const proposal = lane(cylinder)?.proposal;
    return proposal ? [{ cylinder, decision: proposal.decision, reason: proposal.reason }] : [];
  });
  if (agreed.length) void decide(agreed);
}
function pick(cylinder: number) {
  tapped.value = cylinder;
  otherwise.value = false;
}
useKeys([
  { key: 'a', word: 'agree with what is proposed', run: () => agree([selected.value]) },
  { key: 'o', word: 'decide otherwise', run: () => (otherwise.value = true) },
  ...['1', '2', '3', '4', '5', '6', '7', '8', '9', '0', '-', '=']
    .slice(0, order.value.length)
    .map((key, i) => ({
      key,
      word: `look at cylinder ${i + 1}`,
      run: () => pick(i + 1),
    })),
]);
</script>

<template>
  <main class="decide">
    <section class="set">
      <StripFrame
        :banks="view.banks"
        :first-at="view.file.job.intake.layout.first_at"
        :labels="job.labels.value"
        :selected="selected"
        @select="pick"
      >
        <StripRow word="measured">
          <template #default="{ cylinder }">
            <button class="cell" type="button" tabindex="-1" @click="pick(cylinder)">
              <InjectorMark :mark="lane(cylinder)?.mark ?? 'not_measured'" :size="38" />
              <span class="value"
                >{{ lane(cylinder)?.at_least ? '≥' : '' }}{{ lane(cylinder)?.shown || '–' }}</span
              >
            </button>
          </template>
        </StripRow>
        <StripRow word="proposed">
          <template #default="{ cylinder }">
            <p class="word" :class="{ past: job.decision(cylinder) }">
              {{ lane(cylinder) ? DECISION[lane(cylinder)!.proposal.decision] : '–' }}
            </p>
          </template>
        </StripRow>
        <StripRow word="decided">
          <template #default="{ cylinder }">
            <p v-if="job.decision(cylinder)" class="word decided">
              {{ DECISION[job.decision(cylinder)!.decision] }}
              <span class="small muted">{{ job.person(job.decision(cylinder)!.signed.by) }}</span>
            </p>
            <p v-else class="word open">open</p>
          </template>
        </StripRow>
      </StripFrame>
    </section>

    <section v-if="!verdict" class="act">
      <p class="muted">Nothing is measured yet, so nothing is proposed.</p>
    </section>
    <section class="act" aria-label="Decision">
      <template v-if="current">
        <p class="muted">Cylinder {{ selected }} {{ job.labels.value[selected] }}</p>
        <h1 :data-mark="current.mark">
          <InjectorMark :mark="current.mark" :size="44" silent /> {{ DECISION[current.proposal.decision] }}
        </h1>
        <p class="reason">{{ current.proposal.reason }}</p>
        <p>{{ current.sentence }}</p>
      </template>
      <h1 v-else>Cylinder {{ selected }}</h1>
      <p v-if="job.decision(selected)" class="held">
        <strong>{{ DECISION[job.decision(selected)!.decision] }}</strong>:
        {{ job.decision(selected)!.reason }}
        <span class="muted small"
          >{{ job.person(job.decision(selected)!.signed.by) }},
          {{ moment(job.decision(selected)!.signed.at) }}</span
        >
      </p>
      <DecisionForm
        v-if="otherwise || !current"
        :key="selected"
        :cylinder="selected"
        @decide="decide([$event])"
      />
      <div v-else class="buttons">
        <button class="main-act" type="button" @click="agree([selected])">
          Agree: {{ DECISION[current.proposal.decision].toLowerCase() }} <span class="key">A</span>
        </button>
        <button class="side-act" type="button" @click="otherwise = true">
          Decide otherwise <span class="key">O</span>
        </button>
        <button v-if="leaves.length > 1" class="side-act" type="button" @click="agree(leaves)">
          Leave all {{ leaves.length }} that are inside
        </button>
      </div>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <p v-if="!open.length" class="done">
        Every injector is decided.
        <RouterLink class="side-act" :to="`/jobs/${job.id.value}/report`"
          >Report <span class="key">P</span></RouterLink
        >
      </p>
      <p class="muted small">
        Cobaltine is an aid to trained people. The maker’s instructions, local codes and the law come first.
      </p>
    </section>
    <aside v-if="current && verdict" class="why"><BecausePanel :lane="current" :verdict="verdict" /></aside>
  </main>
</template>

<style scoped>
.decide {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  min-height: calc(100vh - 114px);
  grid-template-rows: auto 1fr;
}
.set {
  grid-column: 1 / -1;
  padding: 6px 0 10px;
  border-bottom: 1px solid var(--line);
}
.cell {
  width: 100%;
  min-height: 56px;
  border: 0;
  background: none;
  cursor: pointer;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: center;
  gap: 0 10px;
  padding: 0;
}
.value {
  font-size: min(var(--value), calc(33 * var(--cell)));
  font-weight: 700;
  line-height: 1.15;
}
.word {
  text-align: center;
  font-size: var(--word);
  padding: 4px 3px;
  line-height: 1.2;
}
.past {
  color: var(--muted);
}
.decided {
  font-weight: 700;
}
.decided span {
  display: block;
  font-weight: 400;
}
.open {
  color: var(--muted);
}
.act {
  padding: 18px 22px;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.act h1 {
  display: flex;
  align-items: center;
  gap: 12px;
  font-size: 2.1rem;
  line-height: 1.15;
}
.reason {
  font-size: 1.15rem;
}
.held {
  border-left: 6px solid var(--ink);
  padding-left: 12px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.why {
  background: var(--sheet);
  border-left: 1px solid var(--line);
  padding: 16px 22px;
}
@media (max-width: 900px) {
  .decide {
    grid-template-columns: 1fr;
  }
}
</style>
