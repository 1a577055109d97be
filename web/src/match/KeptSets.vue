<script setup lang="ts">
import type { ShelfView } from '@/api/types';
import { moment } from '@/domain/time';

/** Sets that were kept together, each to be taken apart again. */
const props = defineProps<{ view: ShelfView }>();
const emit = defineEmits<{ apart: [set: string] }>();
const label = (id: string) => props.view.lines.find((one) => one.injector === id)?.label ?? '…';
</script>

<template>
  <section v-if="view.kept.length">
    <h2>Saved sets</h2>
    <ul class="kept">
      <li v-for="set in view.kept" :key="set.id">
        <strong>Set {{ set.number }}</strong>
        <span
          >{{ set.members.map(label).join(', ') }}
          <span class="muted small">{{ moment(set.signed.at) }}</span></span
        >
        <button class="link-act" type="button" @click="emit('apart', set.id)">
          Split set {{ set.number }}
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.kept {
  list-style: none;
  margin: 0;
  padding: 0;
}
.kept li {
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr) auto;
  gap: 12px;
  align-items: center;
  min-height: 40px;
  border-bottom: 1px solid var(--line);
}
</style>
