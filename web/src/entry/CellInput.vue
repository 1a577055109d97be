<script setup lang="ts" generic="S">
import { computed } from 'vue';
import type { Cells } from './useCells';

/** A field of a cell: kept as it is left, marked until it is. */
const props = defineProps<{ cells: Cells<S>; spot: S }>();
// Looked up once for each: an entry draws the fields that it changes and leaves the others alone.
const text = computed(() => props.cells.text(props.spot));
const state = computed(() => props.cells.state(props.spot));
</script>

<template>
  <input
    autocomplete="off"
    inputmode="decimal"
    :value="text"
    :data-state="state"
    :data-long="text.length > 5 || undefined"
    :aria-invalid="state === 'refused'"
    @focus="cells.hold(spot)"
    @input="cells.type(spot, ($event.target as HTMLInputElement).value)"
    @blur="cells.keep(spot)"
  />
</template>

<style scoped>
/* A number with a unit of its own still fits its column. */
input[data-long] {
  font-size: 0.9rem;
  letter-spacing: -0.03em;
}
/* Typed and not kept yet: a broken edge in the colour of what waits. */
input[data-state='unkept'] {
  border-style: dashed;
  border-color: var(--look);
}
</style>
