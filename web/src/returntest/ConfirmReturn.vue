<script setup lang="ts">
import { ref } from 'vue';
import { refusal } from '@/api/client';
import { useJob } from '@/job/useJob';
import { hoseAndFiring } from './words';

/** Next to nothing came back: hose and firing are looked into, and then it counts as a low return. */
const props = defineProps<{ cylinder: number }>();
const job = useJob();
const hose = ref(false);
const fires = ref(false);
const wrong = ref('');
async function confirm() {
  const test = job.view.value?.file.return_tests.findLast(
    (_, i) => (job.view.value?.verdicts[i]?.runs ?? 0) > 0,
  );
  if (!test) return;
  try {
    await job.happened({ what: 'return_confirmed', test: test.id, cylinder: props.cylinder });
    wrong.value = '';
  } catch (error) {
    wrong.value = refusal(error).message;
  }
}
</script>

<template>
  <form class="confirm" @submit.prevent="confirm">
    <p class="small">{{ hoseAndFiring }}</p>
    <label><input v-model="hose" type="checkbox" /> Hose on, clear, not kinked</label>
    <label><input v-model="fires" type="checkbox" /> Injector fires (cut-out or listening)</label>
    <button class="main-act" type="submit" :disabled="!hose || !fires">Confirm reading</button>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </form>
</template>

<style scoped>
.confirm {
  display: grid;
  gap: 6px;
  border-left: 6px solid var(--look);
  padding-left: 12px;
}
label {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 44px;
}
input {
  width: 26px;
  height: 26px;
}
</style>
