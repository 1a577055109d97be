<script setup lang="ts">
import { computed, toRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { sayHeadline } from '@/shell/useHeadline';
import { useKeys } from '@/shell/useKeys';
import StateLine from '@/shell/StateLine.vue';
import { STAGES, SYMPTOM } from '@/words';
import JobTimers from './JobTimers.vue';
import StageRail from './StageRail.vue';
import TrailLines from './TrailLines.vue';
import ExerciseBar from '@/trainer/ExerciseBar.vue';
import { makeJob, provideJob } from './useJob';

const props = defineProps<{ id: string }>();
const job = makeJob(toRef(props, 'id'));
provideJob(job);
const route = useRoute();
const router = useRouter();
const here = computed(() => STAGES.findIndex((stage) => route.path.split(`/`)[3] === stage.path));

watch(
  job.view,
  (view) => {
    if (!view) return;
    const { intake, number } = view.file.job;
    const symptoms = view.symptoms.map((one) => SYMPTOM[one]).join(', ');
    sayHeadline(
      `${intake.machine}${intake.engine ? ', ' + intake.engine : ''}`,
      `job ${number}  ${symptoms}`,
    );
  },
  { immediate: true },
);

function go(by: number) {
  const stage = STAGES[here.value + by];
  if (stage) router.push(`/jobs/${props.id}/${stage.path}`);
}
useKeys([
  { key: '[', word: 'stage before', run: () => go(-1) },
  { key: ']', word: 'stage after', run: () => go(1) },
  { key: 'p', word: 'report', run: () => router.push(`/jobs/${props.id}/report`) },
]);
</script>

<template>
  <StateLine
    v-if="!job.view.value"
    :loading="job.query.isPending.value"
    :error="job.query.error.value"
    @again="job.query.refetch()"
  />
  <template v-else>
    <div class="rail-and-timers">
      <StageRail :here="here" :view="job.view.value" />
      <JobTimers />
    </div>
    <ExerciseBar v-if="job.view.value.file.job.exercise" />
    <TrailLines :view="job.view.value" />
    <RouterView />
  </template>
</template>

<style scoped>
.rail-and-timers {
  position: relative;
}
</style>
