<script setup lang="ts">
import { computed } from 'vue';
import type { Decision, Judgement, Position } from '@/api/types';
import { moment } from '@/domain/time';
import { useJob } from '@/job/useJob';
import { DECISION } from '@/words';
import ComplaintAsk from './ComplaintAsk.vue';
import CostLines from './CostLines.vue';
import DecisionForm from './DecisionForm.vue';
import ReviewLine from './ReviewLine.vue';

/** The injector in front: what is proposed and why, what was decided, and what a person makes of it. */
const props = defineProps<{
  judgement: Judgement;
  current: Position | undefined;
  selected: number;
  open: number;
  /** Open ones that nothing speaks against. */
  leaves: number[];
  wrong: string;
}>();
const emit = defineEmits<{
  agree: [cylinders: number[]];
  decide: [decisions: { cylinder: number; decision: Decision; reason: string }[]];
}>();
const otherwise = defineModel<boolean>('otherwise', { required: true });
const job = useJob();
const moved = computed(() => props.judgement.overtaken.find((one) => one.cylinder === props.selected));
const decided = computed(() => job.decision(props.selected));
const some = computed(() => props.open < (job.view.value?.banks.flat().length ?? 0));
</script>

<template>
  <section class="act" aria-label="Decision">
    <template v-if="judgement.step.asks_complaint">
      <h1>{{ judgement.step.title }}</h1>
      <p class="reason">{{ judgement.step.why }}</p>
      <ComplaintAsk :told="judgement.complaint" />
    </template>
    <template v-else-if="current">
      <p class="muted">
        Cylinder {{ selected }} {{ job.labels.value[selected] }} · rule: {{ current.ruling.rule }}
      </p>
      <h1>{{ DECISION[current.ruling.decision] }}</h1>
      <p class="reason">{{ current.ruling.sentence }}</p>
      <p v-for="one in current.ruling.beside" :key="one" class="beside">{{ one }}</p>
      <p class="muted">To settle: {{ current.ruling.would_change }}</p>
      <ul v-if="current.ruling.afterwards.length" class="small afterwards">
        <li v-for="one in current.ruling.afterwards" :key="one">{{ one }}</li>
      </ul>
    </template>
    <h1 v-else>Cylinder {{ selected }}</h1>
    <p v-if="moved" class="overtaken" role="status">{{ moved.says }}</p>
    <p v-if="decided" class="held">
      <strong>{{ DECISION[decided.decision] }}</strong>:
      {{ decided.reason }}
      <span class="muted small">{{ job.person(decided.signed.by) }}, {{ moment(decided.signed.at) }}</span>
    </p>
    <DecisionForm
      v-if="otherwise || !current"
      :key="selected"
      :cylinder="selected"
      :all="job.view.value?.banks.flat() ?? []"
      @decide="emit('decide', $event)"
      @close="otherwise = false"
    />
    <div v-else class="buttons">
      <button
        v-if="!judgement.step.asks_complaint"
        class="main-act"
        type="button"
        @click="emit('agree', [selected])"
      >
        Agree: {{ DECISION[current.ruling.decision].toLowerCase() }} <span class="key">A</span>
      </button>
      <button class="side-act" type="button" @click="otherwise = true">
        Override <span class="key">O</span>
      </button>
      <button
        v-if="leaves.length > 1 && !judgement.step.asks_complaint"
        class="side-act"
        type="button"
        @click="emit('agree', leaves)"
      >
        Leave all {{ leaves.length }} with no fault found
      </button>
    </div>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <p v-if="!open" class="done">
      All injectors decided.
      <RouterLink class="side-act" :to="`/jobs/${job.id.value}/report`"
        >Report <span class="key">P</span></RouterLink
      >
    </p>
    <CostLines v-if="judgement.cost" :cost="judgement.cost" />
    <ReviewLine v-if="some" :judgement="judgement" />
    <p class="muted small">
      Cobaltine is an aid to trained staff. Maker’s instructions, local regulations and the law come first.
    </p>
  </section>
</template>

<style scoped>
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
.afterwards {
  margin: 0;
  padding-left: 20px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
