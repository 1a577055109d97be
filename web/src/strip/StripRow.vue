<script setup lang="ts">
import { useStrip } from './useStrip';

/** One row of the strip: a cell for each cylinder, in the columns of the frame. */
defineProps<{ word?: string }>();
defineSlots<{ default(props: { cylinder: number }): unknown; gutter?(): unknown; tail?(): unknown }>();
const strip = useStrip();
</script>

<template>
  <div class="strip-row">
    <div class="gutter">
      <slot name="gutter"
        ><span v-if="word" class="muted small">{{ word }}</span></slot
      >
    </div>
    <template v-for="(bank, b) in strip.banks" :key="b">
      <div v-if="b > 0" class="between" aria-hidden="true"></div>
      <div
        v-for="cylinder in bank"
        :key="cylinder"
        class="cell"
        :class="{ selected: cylinder === strip.selected }"
        :data-cylinder="cylinder"
      >
        <slot :cylinder="cylinder" />
      </div>
    </template>
    <div class="gutter tail"><slot name="tail" /></div>
  </div>
</template>

<style scoped>
.strip-row {
  display: grid;
  grid-template-columns: var(--strip-columns);
}
.gutter {
  display: flex;
  align-items: center;
  justify-content: flex-end;
  padding-right: 8px;
  min-width: 0;
}
.tail {
  justify-content: flex-start;
  padding: 0 0 0 8px;
}
.cell {
  min-width: 0;
  border-left: 1px solid var(--line);
  position: relative;
}
.between {
  border-left: 4px solid var(--ink);
  margin-left: 5px;
}
.cell.selected {
  background: var(--act-soft);
}
</style>
