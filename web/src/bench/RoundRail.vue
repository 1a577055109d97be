<script setup lang="ts">
import { computed, ref } from 'vue';
import type { RoundStage } from '@/api/types';
import { refusal } from '@/api/client';
import CleanWhy from './CleanWhy.vue';
import HangOtherwise from './HangOtherwise.vue';
import { ROUND } from '@/words';
import { roundWord, useSession } from './useSession';

/** The rounds of a session, left to right in the order of work; each is a full set of readings. */
const session = useSession();
const wrong = ref('');
const otherwise = ref(false);
const last = computed(() => session.rounds.value.at(-1)?.stage);
/** What may come next: after the last word there is nothing more. */
const next = computed<RoundStage[]>(() => {
  const kind = session.file.value?.setup.kind;
  if (last.value === 'final') return [];
  return kind === 'diesel' ? ['adjusted', 'final'] : ['cleaned', 'final'];
});
/** The jobs whose injectors are on the bench rail: one step back to each. */
const jobs = computed(() => [
  ...new Map((session.file.value?.injectors ?? []).map((one) => [one.job, one.job_number])),
]);
/** Cleaning asks why, where it was decided for none of them. */
const asking = ref<RoundStage>();
async function begin(stage: RoundStage) {
  if (stage === 'cleaned' && last.value === 'received' && asking.value !== stage) {
    asking.value = stage;
    return;
  }
  try {
    await session.begin(stage);
    asking.value = undefined;
    wrong.value = '';
  } catch (error) {
    wrong.value = refusal(error).message;
  }
}
</script>

<template>
  <nav class="rounds" aria-label="Rounds">
    <button
      v-for="one in session.rounds.value"
      :key="one.id"
      type="button"
      class="round"
      :class="{ here: one.id === session.round.value?.id }"
      :aria-pressed="one.id === session.round.value?.id"
      @click="session.chosen.value = one.id"
    >
      {{ roundWord(one) }}
    </button>
    <button v-for="stage in next" :key="stage" type="button" class="round new" @click="begin(stage)">
      + {{ ROUND[stage] }}
    </button>
    <button v-if="session.tags.value.length > 1" type="button" class="round new" @click="otherwise = true">
      repeat in new positions
    </button>
    <RouterLink v-for="[id, number] in jobs" :key="id" class="job" :to="`/jobs/${id}/bench`"
      >Job {{ number }}</RouterLink
    >
    <CleanWhy v-if="asking" @close="asking = undefined" @go="begin(asking)" />
    <HangOtherwise v-if="otherwise" @close="otherwise = false" />
    <span v-if="wrong" class="wrong" role="alert">{{ wrong }}</span>
  </nav>
</template>

<style scoped>
.job {
  margin-left: auto;
  min-height: 44px;
  display: inline-flex;
  align-items: center;
  padding: 0 8px;
}
.job + .job {
  margin-left: 0;
}
.rounds {
  display: flex;
  flex-wrap: wrap;
  gap: 0;
  padding: 6px 14px 0;
}
/* Each round is a length of pipe that runs on into the next. */
.round {
  min-height: 46px;
  padding: 0 26px 0 30px;
  border: 0;
  background: var(--rest);
  color: var(--ink);
  cursor: pointer;
  clip-path: polygon(0 0, calc(100% - 14px) 0, 100% 50%, calc(100% - 14px) 100%, 0 100%, 14px 50%);
  margin-left: -8px;
}
.round:first-child {
  margin-left: 0;
  padding-left: 16px;
  clip-path: polygon(0 0, calc(100% - 14px) 0, 100% 50%, calc(100% - 14px) 100%, 0 100%);
}
.here {
  background: var(--act);
  color: var(--act-ink);
  font-weight: 700;
}
.new {
  background: none;
  color: var(--act);
  clip-path: none;
  text-decoration: underline;
  padding: 0 12px;
  margin-left: 0;
}
</style>
