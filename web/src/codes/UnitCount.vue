<script setup lang="ts">
import { computed, ref } from 'vue';
import { useQueryClient } from '@tanstack/vue-query';
import { refusal } from '@/api/client';
import type { SlotView } from '@/api/types';
import { useJob } from '@/job/useJob';
import { enterCylinderNumbersOne } from '@/codes/words';

/** By which numbers the control unit means which cylinders: told once, before anything is read. */
const props = defineProps<{ slots: SlotView[] }>();
const job = useJob();
const cache = useQueryClient();
const now = computed(() =>
  [...props.slots]
    .sort((one, other) => one.number - other.number)
    .map((one) => one.cylinder)
    .join(' '),
);
const typed = ref(now.value);
const wrong = ref('');
async function keep() {
  const cylinders = typed.value
    .split(/[\s,;-]+/)
    .filter(Boolean)
    .map(Number);
  if (cylinders.some((one) => !Number.isInteger(one) || one < 0)) {
    wrong.value = enterCylinderNumbersOne;
    return;
  }
  try {
    await job.happened({ what: 'unit_numbered', cylinders });
    wrong.value = '';
    await cache.invalidateQueries({ queryKey: ['codes', job.id.value] });
  } catch (error) {
    wrong.value = refusal(error).about('cylinders') || refusal(error).message;
  }
}
</script>

<template>
  <details>
    <summary>ECU numbers injectors differently</summary>
    <form @submit.prevent="keep">
      <label for="count">Cylinder at ECU position 1, 2, 3 …</label>
      <input id="count" v-model="typed" autocomplete="off" inputmode="numeric" :aria-invalid="!!wrong" />
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <p class="muted small">
        Firing order, or from the other end. Codes read in another order must be read again.
      </p>
      <button class="side-act" type="submit">Save order</button>
    </form>
  </details>
</template>

<style scoped>
summary {
  min-height: 44px;
  display: flex;
  align-items: center;
  cursor: pointer;
  color: var(--act);
  text-decoration: underline;
}
form {
  display: grid;
  gap: 6px;
}
input {
  min-height: 46px;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 10px;
  font-size: 1.2rem;
  font-weight: 700;
}
</style>
