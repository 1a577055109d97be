<script setup lang="ts">
import { reactive } from 'vue';
import type { Event, Stage } from '@/api/types';
import { STAGES } from '@/words';

/** A step that a person adds to the plan. */
const props = defineProps<{ happened: (event: Event) => Promise<boolean> }>();
const own = reactive({ title: '', why: '', minutes: '10', stage: 'rule_out' as Stage });
async function add() {
  const minutes = Math.round(Number(own.minutes)) || 0;
  const kept = await props.happened({
    what: 'step_added',
    title: own.title,
    why: own.why,
    minutes,
    stage: own.stage,
  });
  if (kept) own.title = own.why = '';
}
</script>

<template>
  <form @submit.prevent="add">
    <h2>Add your own step</h2>
    <label>Step <input id="own-title" v-model="own.title" autocomplete="off" /></label>
    <label>Reason <input id="own-why" v-model="own.why" autocomplete="off" /></label>
    <div class="pair">
      <label>Minutes <input v-model="own.minutes" inputmode="numeric" /></label>
      <label
        >Stage
        <select v-model="own.stage">
          <option v-for="stage in STAGES" :key="stage.id" :value="stage.id">{{ stage.word }}</option>
        </select></label
      >
    </div>
    <button class="side-act" type="submit">Add step</button>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 8px;
}
.pair {
  display: grid;
  grid-template-columns: 90px 1fr;
  gap: 10px;
}
input,
select {
  display: block;
  width: 100%;
  min-height: 46px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  color: inherit;
  font: inherit;
  padding: 0 10px;
}
@media print {
  form {
    display: none;
  }
}
</style>
