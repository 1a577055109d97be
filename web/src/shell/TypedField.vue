<script setup lang="ts">
import { useUnits } from './useUnits';

/** One field as typed: its word, its unit, and beside it what is wrong with it. */
const text = defineModel<string>({ required: true });
defineProps<{
  name: string;
  word: string;
  unit?: string;
  wrong?: string;
  readAs?: string;
  large?: boolean;
  wide?: boolean;
}>();
const { unit: here } = useUnits();
</script>

<template>
  <div class="typed" :class="{ large, wide }">
    <label :for="name">{{ word }}</label>
    <input
      :id="name"
      v-model="text"
      autocomplete="off"
      :inputmode="wide ? 'text' : 'decimal'"
      :aria-invalid="!!wrong"
      :aria-describedby="wrong ? `${name}-wrong` : undefined"
    />
    <span class="muted small">{{ here(unit ?? '') }}</span>
    <span v-if="wrong" :id="`${name}-wrong`" class="wrong small" role="alert">{{ wrong }}</span>
    <span v-else-if="readAs" class="muted small below">read as {{ readAs }}</span>
  </div>
</template>

<style scoped>
.typed {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 110px 64px;
  gap: 0 10px;
  align-items: center;
}
.typed.wide {
  grid-template-columns: minmax(0, 1fr) minmax(0, 2fr);
}
.wide > .muted:empty {
  display: none;
}
input {
  min-height: 46px;
  width: 100%;
  border: 2px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 10px;
  font-size: 1.05rem;
}
.large {
  grid-template-columns: minmax(0, 1fr) 170px 84px;
}
.large input {
  min-height: 54px;
  font-size: 1.5rem;
  font-weight: 700;
}
input[aria-invalid='true'] {
  border-color: var(--too-much);
}
.wrong,
.below {
  grid-column: 1 / -1;
  text-align: right;
}
</style>
