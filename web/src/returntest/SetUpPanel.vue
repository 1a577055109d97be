<script setup lang="ts">
import { onMounted, watch } from 'vue';
import { useRouter } from 'vue-router';
import type { SetUpPreview } from '@/api/types';
import { REGIME } from '@/words';
import { noBottlesHere } from '@/returntest/words';
import { useSetUp } from './useSetUp';
import { useUnits } from '@/shell/useUnits';

/** Bottles and conditions. They belong to the test: other conditions are another test. */
const emit = defineEmits<{ done: []; preview: [SetUpPreview | undefined] }>();
const byHouse = defineModel<boolean>('byHouse', { required: true });
const { job, form, more, extra, bottles, timers, preview, fields, wrong, setUp } = useSetUp(byHouse, () =>
  emit('done'),
);
const router = useRouter();
/** A way out for whoever has none: the plan says what to do instead. */
async function skip() {
  await job.happened({ what: 'step_skipped', step: 'return_test', reason: noBottlesHere });
  await router.push(`/jobs/${job.id.value}/take-in/plan`);
}
watch(preview, (now) => emit('preview', now), { immediate: true });
onMounted(() => document.getElementById('capacity')?.focus());
const { unit } = useUnits();
</script>

<template>
  <form class="setup" @submit.prevent="setUp" @keydown.escape="job.test.value && emit('done')">
    <h2>Set up the return test</h2>
    <fieldset>
      <legend class="hidden">Engine</legend>
      <label v-for="(word, regime) in REGIME" :key="regime" class="choice">
        <input v-model="form.regime" type="radio" :value="regime" /> {{ word }}
      </label>
    </fieldset>
    <label v-if="bottles.length" class="pick">
      Bottles
      <select id="bottles" v-model="form.bottles">
        <option value="">not listed</option>
        <option v-for="one in bottles" :key="one.instrument.id" :value="one.instrument.id">
          {{ one.instrument.name }}{{ one.overdue ? ', overdue' : '' }}
        </option>
      </select>
    </label>
    <label v-if="timers.length" class="pick">
      Timer
      <select id="timer" v-model="form.timer">
        <option value="">by hand</option>
        <option v-for="one in timers" :key="one.instrument.id" :value="one.instrument.id">
          {{ one.instrument.name }}{{ one.overdue ? ', overdue' : '' }}
        </option>
      </select>
    </label>
    <div v-for="field in [...fields, ...extra]" :key="field.name" class="field">
      <label :for="field.name">{{ field.word }}</label>
      <input
        :id="field.name"
        v-model="form[field.name]"
        inputmode="decimal"
        autocomplete="off"
        :aria-invalid="!!wrong?.about(field.name)"
        :aria-describedby="`${field.name}-wrong`"
      />
      <span class="muted small">{{ unit(field.unit) }}</span>
      <span v-if="wrong?.about(field.name)" :id="`${field.name}-wrong`" class="wrong small" role="alert">{{
        wrong.about(field.name)
      }}</span>
    </div>
    <button v-if="!more" class="link-act" type="button" @click="more = true">
      Time bottles to a mark, or set a level line
    </button>
    <p v-if="wrong && !wrong.fields.length" class="wrong" role="alert">{{ wrong.message }}</p>
    <button class="main-act" type="submit">Save setup</button>
    <button v-if="job.test.value" class="link-act" type="button" @click="emit('done')">Back</button>
    <button v-else class="link-act" type="button" @click="skip">No bottles here? Skip return test</button>
  </form>
</template>

<style scoped>
.setup {
  display: grid;
  gap: 10px;
}
.field {
  display: grid;
  grid-template-columns: 1fr 78px 40px;
  gap: 0 8px;
  align-items: center;
}
.field .wrong {
  grid-column: 1 / -1;
}
.field input {
  min-height: 44px;
  width: 100%;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 8px;
  font-size: 1.1rem;
  font-weight: 700;
}
input[aria-invalid='true'] {
  border-color: var(--too-much);
}
.pick {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr);
  align-items: center;
}
select {
  min-height: 44px;
  min-width: 0;
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 2px solid var(--edge);
  border-radius: 6px;
  padding: 0 6px;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
legend {
  font-weight: 700;
  padding: 0;
}
.hidden {
  position: absolute;
  clip-path: inset(50%);
}
.choice {
  display: inline-flex;
  gap: 8px;
  align-items: center;
  min-height: 44px;
  padding-right: 10px;
}
.choice input {
  width: 22px;
  height: 22px;
  accent-color: var(--act);
}
</style>
