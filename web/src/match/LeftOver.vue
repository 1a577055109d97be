<script setup lang="ts">
import { computed } from 'vue';
import type { LeftOnShelf } from '@/api/types';

/** What no set was made of, and why. */
const props = defineProps<{ leftovers: LeftOnShelf[] }>();
/** Those with the same reason stand together. */
const left = computed(() => {
  const by = new Map<string, string[]>();
  for (const one of props.leftovers)
    by.set(one.why, [...(by.get(one.why) ?? []), one.label || `job ${one.job_number}`]);
  return [...by];
});
</script>

<template>
  <section>
    <h2>Left over</h2>
    <ul class="left">
      <li v-for="[why, labels] in left" :key="why">
        <span>{{ why }}</span>
        <strong>{{ labels.join(', ') }}</strong>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.left {
  list-style: none;
  margin: 0;
  padding: 0;
}
.left li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 12px;
  align-items: center;
  min-height: 40px;
  border-bottom: 1px solid var(--line);
}
</style>
