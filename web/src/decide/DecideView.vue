<script setup lang="ts">
import { computed, ref } from 'vue';
import { refusal } from '@/api/client';
import type { Decision } from '@/api/types';
import { newId } from '@/domain/identity';
import { moment } from '@/domain/time';
import { useJob } from '@/job/useJob';
import { useKeys } from '@/shell/useKeys';
import { cylinderKeys } from '@/strip/cylinderKeys';
import StateLine from '@/shell/StateLine.vue';
import InjectorMark from '@/strip/InjectorMark.vue';
import StripFrame from '@/strip/StripFrame.vue';
import StripRow from '@/strip/StripRow.vue';
import { DECISION } from '@/words';
import CauseScale from './CauseScale.vue';
import CostLines from './CostLines.vue';
import DecisionForm from './DecisionForm.vue';
import NextChecks from './NextChecks.vue';
import ReviewLine from './ReviewLine.vue';
import SchoolList from './SchoolList.vue';
import { likely } from './scale';
import { useJudgement } from './useJudgement';

/** The judgement call, injector by injector: likely causes, what is proposed and why, what is decided. */
const job = useJob();
const { query, judgement, at } = useJudgement();
const view = computed(() => job.view.value!);
const order = computed(() => view.value.banks.flat());
const open = computed(() => order.value.filter((cylinder) => !job.decision(cylinder)));
const tapped = ref<number | null>(null);
/** What needs work comes first; then what is open. */
const pressing = computed(() => open.value.find((c) => at(c)?.ruling.decision !== 'leave'));
const selected = computed(() => tapped.value ?? pressing.value ?? open.value[0] ?? order.value[0] ?? 1);
const current = computed(() => at(selected.value));
const wrong = ref('');
const otherwise = ref(false);
const unfolded = ref<string | null | undefined>(undefined);
const leaves = computed(() => open.value.filter((c) => at(c)?.ruling.decision === 'leave'));
/** What is wrong with it, most likely; sound where nothing speaks for anything else. */
const first = (cylinder: number) => at(cylinder)?.ranked[0];
/** Whether one state leads: likelier than all others together. */
const leads = (cylinder: number) => (first(cylinder)?.p ?? 0) > 0.5;
const moved = (cylinder: number) => judgement.value?.overtaken.find((one) => one.cylinder === cylinder);
const opened = (cause: string | null | undefined, i: number) =>
  unfolded.value === undefined ? i === 0 : unfolded.value === (cause ?? 'sound');
const toggle = (cause: string | null | undefined, i: number) =>
  (unfolded.value = opened(cause, i) ? null : (cause ?? 'sound'));

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
    const ruling = at(cylinder)?.ruling;
    return ruling ? [{ cylinder, decision: ruling.decision, reason: ruling.sentence }] : [];
  });
  if (agreed.length) void decide(agreed);
}
function pick(cylinder: number) {
  tapped.value = cylinder;
  unfolded.value = undefined;
  otherwise.value = false;
}
useKeys([
  { key: 'a', word: 'agree with what is proposed', run: () => agree([selected.value]) },
  { key: 'o', word: 'decide otherwise', run: () => (otherwise.value = true) },
  ...cylinderKeys(order.value.length, pick, (cylinder) => `look at cylinder ${cylinder}`),
]);
</script>

<template>
  <StateLine
    v-if="!judgement"
    :loading="query.isPending.value"
    :error="query.error.value"
    @again="query.refetch()"
  />
  <main v-else class="decide">
    <section class="set">
      <p class="bench-finding" role="status">
        <strong>{{ judgement.headline }}</strong>
        <span v-if="judgement.differ">{{ judgement.differ }}</span>
      </p>
      <StripFrame
        :banks="view.banks"
        :first-at="view.file.job.intake.layout.first_at"
        :labels="job.labels.value"
        :selected="selected"
        @select="pick"
      >
        <StripRow word="proposed">
          <template #default="{ cylinder }">
            <button class="cell" type="button" tabindex="-1" @click="pick(cylinder)">
              <InjectorMark :mark="at(cylinder)?.mark ?? 'not_measured'" :size="34" silent />
              <span class="word" :class="{ past: job.decision(cylinder) }">{{
                at(cylinder) ? DECISION[at(cylinder)!.ruling.decision] : '–'
              }}</span>
            </button>
          </template>
        </StripRow>
        <StripRow word="likeliest">
          <template #default="{ cylinder }">
            <p class="cause">
              <template v-if="leads(cylinder)"
                >{{ first(cylinder)!.word }}
                <span class="muted">{{ likely(first(cylinder)!.p) }}</span></template
              >
              <span v-else class="muted">no cause leads</span>
            </p>
          </template>
        </StripRow>
        <StripRow word="decided">
          <template #default="{ cylinder }">
            <p v-if="job.decision(cylinder)" class="word decided" :class="{ moved: moved(cylinder) }">
              {{ DECISION[job.decision(cylinder)!.decision] }}
              <span v-if="moved(cylinder)" class="small">decide again</span>
              <span class="small muted">{{ job.person(job.decision(cylinder)!.signed.by) }}</span>
            </p>
            <p v-else class="word open">open</p>
          </template>
        </StripRow>
      </StripFrame>
    </section>

    <section class="act" aria-label="Decision">
      <template v-if="current">
        <p class="muted">
          Cylinder {{ selected }} {{ job.labels.value[selected] }} · rule: {{ current.ruling.rule }}
        </p>
        <h1>{{ DECISION[current.ruling.decision] }}</h1>
        <p class="reason">{{ current.ruling.sentence }}</p>
        <p v-for="one in current.ruling.beside" :key="one" class="beside">{{ one }}</p>
        <p class="muted">What would change this: {{ current.ruling.would_change }}</p>
        <ul v-if="current.ruling.afterwards.length" class="small afterwards">
          <li v-for="one in current.ruling.afterwards" :key="one">{{ one }}</li>
        </ul>
      </template>
      <h1 v-else>Cylinder {{ selected }}</h1>
      <p v-if="moved(selected)" class="overtaken" role="status">{{ moved(selected)!.says }}</p>
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
          Agree: {{ DECISION[current.ruling.decision].toLowerCase() }} <span class="key">A</span>
        </button>
        <button class="side-act" type="button" @click="otherwise = true">
          Decide otherwise <span class="key">O</span>
        </button>
        <button v-if="leaves.length > 1" class="side-act" type="button" @click="agree(leaves)">
          Leave all {{ leaves.length }} that nothing speaks against
        </button>
      </div>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <p v-if="!open.length" class="done">
        Every injector is decided.
        <RouterLink class="side-act" :to="`/jobs/${job.id.value}/report`"
          >Report <span class="key">P</span></RouterLink
        >
      </p>
      <CostLines v-if="judgement.cost" :cost="judgement.cost" />
      <ReviewLine v-if="open.length < order.length" :judgement="judgement" />
      <p class="muted small">
        Cobaltine is an aid to trained people. The maker’s instructions, local codes and the law come first.
      </p>
    </section>
    <section v-if="current" class="causes" aria-label="Causes">
      <h2>What it can be</h2>
      <p class="muted small legend">
        ○ before anything was measured; findings push it right (for) or left (against). Right of the dashed
        line, {{ Math.round(judgement.act * 100) }} %, it is acted upon.
      </p>
      <CauseScale
        v-for="(one, i) in current.ranked"
        :key="one.word"
        :ranked="one"
        :act="judgement.act"
        :open="opened(one.cause, i)"
        @toggle="toggle(one.cause, i)"
      />
    </section>
    <aside class="why">
      <NextChecks :judgement="judgement" />
      <SchoolList v-if="judgement.schools.length" :schools="judgement.schools" :cylinder="selected" />
      <nav v-if="view.bench" class="set-links" aria-label="For the set">
        <RouterLink class="side-act" :to="`/jobs/${job.id.value}/decide/places`"
          >Places and fuelling</RouterLink
        >
        <RouterLink class="side-act" :to="`/match?job=${job.id.value}`">Match</RouterLink>
      </nav>
    </aside>
  </main>
</template>

<style scoped>
.decide {
  display: grid;
  grid-template-columns: minmax(0, 9fr) minmax(0, 10fr) minmax(0, 8fr);
  min-height: calc(100vh - 114px);
  grid-template-rows: auto 1fr;
}
.set {
  grid-column: 1 / -1;
  padding: 6px 0 10px;
  border-bottom: 1px solid var(--line);
}
.set-links {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 14px;
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
.word {
  text-align: center;
  font-size: var(--word);
  padding: 4px 3px;
  line-height: 1.2;
}
.cause {
  text-align: center;
  font-size: clamp(0.7rem, calc(13 * var(--cell)), 0.9rem);
  line-height: 1.2;
  padding: 4px 3px;
}
.causes {
  padding: 16px 20px;
  border-left: 1px solid var(--line);
}
.legend {
  padding: 4px 0;
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
.beside,
.overtaken {
  border-left: 6px solid var(--look);
  padding-left: 12px;
  font-weight: 700;
}
.moved {
  text-decoration: underline dashed var(--look);
  text-underline-offset: 4px;
}
.afterwards {
  margin: 0;
  padding-left: 20px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.why {
  background: var(--sheet);
  border-left: 1px solid var(--line);
  padding: 16px 20px;
  display: flex;
  flex-direction: column;
  gap: 18px;
}
@media (max-width: 900px) {
  .decide {
    grid-template-columns: 1fr;
  }
}
</style>
