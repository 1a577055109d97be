<script setup lang="ts">
import { useQueries, useQueryClient } from '@tanstack/vue-query';
import { computed, onMounted, ref, watch } from 'vue';
import { ask, refusal } from '@/api/client';
import { act } from '@/api/outbox';
import { newId } from '@/domain/identity';
import PlainDialog from '@/shell/PlainDialog.vue';
import TypedField from '@/shell/TypedField.vue';
import { DECISION } from '@/words';
import { useSession } from './useSession';
import { checkAndCleanOrdered } from './words';

/** Injectors that are cleaned without a decision to clean them: one reason for all, signed as the decision. */
const emit = defineEmits<{ close: []; go: [] }>();
const session = useSession();
const cache = useQueryClient();
const reason = ref('');
const wrong = ref('');
const hung = computed(() => session.file.value?.injectors ?? []);
const jobs = computed(() => [...new Set(hung.value.map((one) => one.job))]);
const path = (job: string) => ({ params: { path: { job } } });
const views = useQueries({
  queries: computed(() =>
    jobs.value.map((job) => ({
      queryKey: ['judgement', job, 'cleaning'],
      queryFn: async () => ({
        job,
        view: await ask('get', '/api/jobs/{job}', path(job)),
        judgement: await ask('get', '/api/jobs/{job}/judgement', path(job)),
      }),
      gcTime: 0,
    })),
  ),
});
const known = computed(() => views.value.every((one) => one.data));
/** What is not decided to be cleaned, with what is proposed for it. */
const open = computed(() =>
  views.value.flatMap(({ data }) => {
    if (!data || data.view.closed) return [];
    const { view, judgement, job } = data;
    const newest = (cylinder: number) =>
      view.file.decisions.find((one) => one.cylinder === cylinder && view.current.decisions.includes(one.id));
    const here = hung.value.filter((one) => one.job === job && newest(one.cylinder)?.decision !== 'clean');
    return here.map((one) => ({
      job,
      number: one.job_number,
      cylinder: one.cylinder,
      ruling: judgement.positions.find((at) => at.cylinder === one.cylinder)?.ruling,
      asked: view.symptoms.includes('check_and_clean'),
    }));
  }),
);
watch([known, open], () => {
  if (known.value && !open.value.length) emit('go');
  if (open.value.length && open.value.every((one) => one.asked)) reason.value ||= checkAndCleanOrdered;
});
onMounted(() => document.querySelector<HTMLInputElement>('#cleaned-because')?.focus());

async function clean() {
  try {
    for (const job of new Set(open.value.map((one) => one.job))) {
      const of = open.value.filter((one) => one.job === job);
      const decisions = of.map(({ cylinder }) => ({
        id: newId(),
        cylinder,
        decision: 'clean' as const,
        reason: reason.value.trim(),
      }));
      await act('post', '/api/jobs/{job}/decisions', { ...path(job), body: { decisions } });
      await cache.invalidateQueries({ queryKey: ['job', job] });
    }
    emit('go');
  } catch (error) {
    wrong.value = refusal(error).about('reason') || refusal(error).message;
  }
}
</script>

<template>
  <PlainDialog v-if="known && open.length" title="Cleaning is not decided for these" @close="emit('close')">
    <ul>
      <li v-for="one in open" :key="`${one.job}-${one.cylinder}`">
        Job {{ one.number }}, cylinder {{ one.cylinder }}
        <span v-if="one.ruling" class="muted">proposed: {{ DECISION[one.ruling.decision] }}</span>
      </li>
    </ul>
    <form @submit.prevent="clean">
      <TypedField v-model="reason" name="cleaned-because" word="Why they are cleaned" wide :wrong="wrong" />
      <button class="main-act" type="submit" :disabled="!reason.trim()">Decide and clean</button>
    </form>
  </PlainDialog>
</template>

<style scoped>
ul {
  margin: 0;
  padding-left: 20px;
}
form {
  display: grid;
  gap: 10px;
}
</style>
