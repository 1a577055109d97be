<script setup lang="ts">
import type { SetUpPreview } from '@/api/types';
import DecidesBar from '@/instruments/DecidesBar.vue';
import { bottlesCanSettle, bottlesCannotSettle } from '@/returntest/words';

/** Before the test: the limit, whether the bottles can decide it, and what the house knows. */
defineProps<{ preview: SetUpPreview }>();
const byHouse = defineModel<boolean>('byHouse', { required: true });
const WORD = {
  well: bottlesCanSettle,
  narrow: 'Only in part',
  not: bottlesCannotSettle,
};
</script>

<template>
  <section class="before" aria-label="Before the test" aria-live="polite">
    <h2>Limit to be used</h2>
    <p v-if="!byHouse">{{ preview.limit }}</p>
    <label v-if="preview.reference?.reference" class="own">
      <input v-model="byHouse" type="checkbox" />
      <span><strong>Use this workshop’s own reference.</strong> {{ preview.reference.reference.says }}</span>
    </label>
    <p v-else-if="preview.reference?.refused" class="muted">{{ preview.reference.refused }}</p>
    <template v-if="preview.can_decide">
      <p class="verdict" :class="preview.can_decide.carries">{{ WORD[preview.can_decide.carries] }}</p>
      <DecidesBar
        :can="preview.can_decide"
        :lower="preview.can_decide.lower ?? null"
        :upper="preview.can_decide.upper ?? null"
        small
      />
      <p>{{ preview.can_decide.sentence }}</p>
      <p v-for="way in preview.can_decide.would" :key="way" class="way">{{ way }}</p>
    </template>
    <p v-if="preview.plan" class="muted">{{ preview.plan }}</p>
    <p v-for="flag in preview.flags" :key="flag" class="caution">{{ flag }}</p>
  </section>
</template>

<style scoped>
.before {
  display: grid;
  gap: 10px;
}
.own {
  display: flex;
  gap: 12px;
  align-items: flex-start;
  padding: 10px 0;
  cursor: pointer;
}
.own input {
  flex: none;
  width: 26px;
  height: 26px;
  accent-color: var(--act);
}
.verdict {
  font-size: 1.25rem;
  font-weight: 700;
  color: var(--inside);
}
.verdict.narrow {
  color: var(--undecided);
}
.verdict.not {
  color: var(--too-much);
}
.way {
  border-left: 4px solid var(--act);
  padding-left: 12px;
  font-weight: 700;
}
</style>
