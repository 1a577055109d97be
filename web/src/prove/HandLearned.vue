<script setup lang="ts">
import { reactive, ref } from 'vue';
import type { LearnedRequest } from '@/api/types';
import { newId } from '@/domain/identity';

/** Learned values and relearn counters as another scan tool shows them, typed by whoever saw them. */
const props = defineProps<{ cylinders: readonly number[]; busy: boolean }>();
const emit = defineEmits<{ seen: [told: LearnedRequest] }>();
const cleared = ref(false);
const values = reactive<Record<number, string>>({});
const counters = reactive([{ band: '', done: '', needed: '' }]);
function keep() {
  const learned = props.cylinders.map((cylinder) => ({ cylinder, typed: values[cylinder] ?? '' }));
  emit('seen', { id: newId(), cleared: cleared.value, learned, counters });
  // It is said of this one reading.
  cleared.value = false;
}
</script>

<template>
  <details>
    <summary>Type learned values seen elsewhere</summary>
    <form @submit.prevent="keep">
      <p class="muted small">As another scan tool shows them. Your signature says who saw them.</p>
      <label class="tick"><input v-model="cleared" type="checkbox" /> Cleared just before</label>
      <label v-for="cylinder in cylinders" :key="cylinder" class="value">
        <span>{{ cylinder }}</span>
        <input
          v-model="values[cylinder]"
          inputmode="decimal"
          autocomplete="off"
          :aria-label="`Learned value of cylinder ${cylinder}, percent`"
        />
        <span class="muted small">%</span>
      </label>
      <fieldset v-for="(one, i) in counters" :key="i">
        <legend class="small">Relearn counter</legend>
        <input v-model="one.band" placeholder="kind of run" :aria-label="`Kind of run ${i + 1}`" />
        <input v-model="one.done" inputmode="numeric" placeholder="done" :aria-label="`Runs done ${i + 1}`" />
        <span>of</span>
        <input
          v-model="one.needed"
          inputmode="numeric"
          placeholder="all"
          :aria-label="`Runs needed ${i + 1}`"
        />
      </fieldset>
      <button class="link-act" type="button" @click="counters.push({ band: '', done: '', needed: '' })">
        Add a counter
      </button>
      <button class="side-act" type="submit" :disabled="busy">Save learned values</button>
    </form>
  </details>
</template>

<style scoped>
form {
  display: grid;
  gap: 8px;
}
.tick,
.value {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 44px;
}
.value {
  display: grid;
  grid-template-columns: 30px 1fr 20px;
  font-weight: 700;
}
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 1fr) auto minmax(0, 1fr);
  gap: 6px;
  align-items: center;
}
input:not([type='checkbox']) {
  min-height: 46px;
  min-width: 0;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 10px;
}
input[type='checkbox'] {
  width: 26px;
  height: 26px;
}
summary {
  min-height: 44px;
  display: flex;
  align-items: center;
  cursor: pointer;
  color: var(--act);
  text-decoration: underline;
}
</style>
