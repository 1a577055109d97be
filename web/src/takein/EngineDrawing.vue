<script setup lang="ts">
import type { EngineEnd } from '@/api/types';
import StripFrame from '@/strip/StripFrame.vue';
import StripRow from '@/strip/StripRow.vue';

/** The engine as the strip will draw it, with a field for the label of each injector. */
defineProps<{ banks: number[][]; firstAt: EngineEnd; wrong: string }>();
const labels = defineModel<string[]>('labels', { required: true });

function name(cylinder: number, event: Event) {
  const next = [...labels.value];
  while (next.length < cylinder) next.push('');
  next[cylinder - 1] = (event.target as HTMLInputElement).value;
  labels.value = next;
}
</script>

<template>
  <div v-if="banks.length" class="drawing">
    <StripFrame :banks="banks" :first-at="firstAt" gutter="74px">
      <StripRow word="label">
        <template #default="{ cylinder }">
          <input
            :value="labels[cylinder - 1] ?? ''"
            :aria-label="`Label of the injector in cylinder ${cylinder}`"
            :aria-invalid="!!wrong"
            autocomplete="off"
            @input="name(cylinder, $event)"
          />
        </template>
      </StripRow>
    </StripFrame>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <p class="muted small">
      Seen from the side, pulley on the left. Serial number or your own label, if any.
    </p>
  </div>
</template>

<style scoped>
.drawing {
  border-top: 2px solid var(--ink);
  border-bottom: 1px solid var(--line);
  padding: 6px 0;
}
input {
  width: calc(100% - 6px);
  margin: 2px 3px 4px;
  min-height: 44px;
  border: 1px solid var(--edge);
  border-radius: 4px;
  background: var(--sheet);
  font-size: 0.85rem;
  text-align: center;
  padding: 0 2px;
}
</style>
