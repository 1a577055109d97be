<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useJob } from '@/job/useJob';
import { LEVEL } from '@/words';
import { useExercise } from './useExercise';
import { decideAll, endSays, hours } from './words';

/** A made-up engine under the rail of the job: its clock, its till, its state, and what can be done there. */
const job = useJob();
const route = useRoute();
const router = useRouter();
const exercise = useExercise(job);
const state = exercise.state;
const repairs = ref(false);
const ending = ref(false);
const order = computed(() => job.view.value?.banks.flat() ?? []);
const open = computed(() => order.value.filter((cylinder) => !job.decision(cylinder)).length);
const result = computed(() => `/jobs/${job.id.value}/exercise`);
const shown = computed(() => route.path === result.value);
const newest = computed(() => state.value?.mistakes.at(-1));

async function end() {
  if (await exercise.does({ act: 'end' })) await router.push(result.value);
}
async function repair(part: NonNullable<typeof state.value>['put_right'][number]['part']) {
  if (await exercise.does({ act: 'put_right', part })) repairs.value = false;
}
</script>

<template>
  <section v-if="state" class="exercise" aria-label="Exercise">
    <p class="case">
      <strong>{{ state.title }}</strong>
      <span class="small">{{ LEVEL[state.level] }}{{ state.guided ? ', guided' : '' }}</span>
    </p>
    <p class="figure">
      <strong>{{ hours(state.spent.minutes) }}</strong>
      <span class="small">hours of work</span>
    </p>
    <p class="figure">
      <strong>{{ Math.round(state.spent.total) }}</strong>
      <span class="small">spent, parts {{ Math.round(state.spent.parts) }}</span>
    </p>
    <p class="figure" :class="{ cold: !state.warm }">
      <strong>{{ Math.round(state.celsius) }} °C</strong>
      <span class="small">{{ state.warm ? 'engine warm' : 'engine cold' }}</span>
    </p>
    <div v-if="!state.marking" class="acts">
      <button
        v-if="!state.warm"
        class="side-act"
        type="button"
        :disabled="exercise.busy.value"
        @click="exercise.does({ act: 'warm_up' })"
      >
        Warm up engine
      </button>
      <button
        class="side-act"
        type="button"
        :aria-expanded="repairs"
        @click="((repairs = !repairs), (ending = false))"
      >
        Repair shared part
      </button>
      <button
        v-if="state.coded"
        class="side-act"
        type="button"
        :disabled="exercise.busy.value"
        @click="exercise.does({ act: 'scan_bodies' })"
      >
        Scan trim codes
      </button>
      <button
        class="side-act"
        type="button"
        :aria-expanded="ending"
        @click="((ending = !ending), (repairs = false))"
      >
        End exercise
      </button>
    </div>
    <RouterLink v-else-if="!shown" class="main-act" :to="result">Show result</RouterLink>
    <div v-if="repairs && !state.marking" class="drawer" role="group" aria-label="Shared parts">
      <button
        v-for="one in state.put_right"
        :key="one.part"
        class="side-act"
        type="button"
        :disabled="one.done || exercise.busy.value"
        @click="repair(one.part)"
      >
        {{ one.says }}{{ one.done ? ', done' : '' }}
      </button>
    </div>
    <div v-if="ending && !state.marking" class="drawer" role="group" aria-label="End">
      <p>{{ decideAll(open) }} {{ endSays }}</p>
      <button class="main-act" type="button" :disabled="exercise.busy.value" @click="end">
        Mark exercise
      </button>
    </div>
    <p v-if="exercise.wrong.value" class="drawer wrong" role="alert">{{ exercise.wrong.value }}</p>
    <p v-if="newest && !state.marking" class="drawer mistake" role="status">
      <strong>{{ newest.says }}</strong> {{ newest.why }}
    </p>
    <p v-else-if="state.guided && !state.marking && state.teaches" class="drawer small">
      {{ state.teaches }}
    </p>
  </section>
</template>

<style scoped>
/* Hatched along its edge like a drawing: nobody takes it for an engine that somebody drives. */
.exercise {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 26px;
  align-items: center;
  padding: 8px 22px;
  background: var(--act-soft);
  border-left: 14px solid transparent;
  border-image: repeating-linear-gradient(135deg, var(--act) 0 6px, var(--act-soft) 6px 12px) 14;
}
.exercise p {
  display: grid;
  line-height: 1.2;
}
.case strong {
  font-size: 1.15rem;
}
.figure strong {
  font-size: 1.5rem;
}
.cold strong {
  color: var(--too-little);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-left: auto;
}
.drawer {
  flex-basis: 100%;
  display: flex !important;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
}
.mistake strong {
  color: var(--too-much);
}
</style>
