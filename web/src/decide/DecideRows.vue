<script setup lang="ts">
import type { Judgement } from '@/api/types';
import { useJob } from '@/job/useJob';
import InjectorMark from '@/strip/InjectorMark.vue';
import StripRow from '@/strip/StripRow.vue';
import { DECISION } from '@/words';
import { likely } from './scale';

/** The set at a glance: what is proposed, what is likeliest, what was decided. */
const props = defineProps<{ judgement: Judgement }>();
const emit = defineEmits<{ pick: [cylinder: number] }>();
const job = useJob();
const at = (cylinder: number) => props.judgement.positions.find((one) => one.cylinder === cylinder);
/** What is wrong with it, most likely; sound where nothing speaks for anything else. */
const first = (cylinder: number) => at(cylinder)?.ranked[0];
/** Whether one state leads: likelier than all others together. */
const leads = (cylinder: number) => (first(cylinder)?.p ?? 0) > 0.5;
const moved = (cylinder: number) => props.judgement.overtaken.find((one) => one.cylinder === cylinder);
</script>

<template>
  <StripRow word="proposed">
    <template #default="{ cylinder }">
      <button class="cell" type="button" tabindex="-1" @click="emit('pick', cylinder)">
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
          >{{ first(cylinder)!.word }} <span class="muted">{{ likely(first(cylinder)!.p) }}</span></template
        >
        <span v-else class="muted">no leading cause</span>
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
</template>

<style scoped>
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
.past {
  color: var(--muted);
}
.decided {
  font-size: clamp(0.66rem, calc(14 * var(--cell)), 1.05rem);
  padding-inline: 0;
  font-weight: 700;
}
.decided span {
  display: block;
  font-weight: 400;
}
.open {
  color: var(--muted);
}
.moved {
  text-decoration: underline dashed var(--look);
  text-underline-offset: 4px;
}
</style>
