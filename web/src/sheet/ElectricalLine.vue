<script setup lang="ts">
import type { Electrical } from '@/api/types';

/** What all electrical checks say together: where to look, in one line. */
defineProps<{ electrical: Electrical }>();
const PLACE = {
  fuse: 'fuse',
  signal: 'signal',
  leg: 'leg',
  plug: 'plug',
  driver: 'driver',
  injector: 'injector',
};
</script>

<template>
  <section class="electrical" aria-label="Electrical conclusion" :class="{ named: electrical.named.length }">
    <p class="headline">{{ electrical.headline }}</p>
    <p v-for="one in electrical.named" :key="one.sentence" class="small">
      <strong>{{ PLACE[one.place] }}</strong> {{ one.sentence }}
    </p>
    <p v-if="electrical.missing.length" class="muted small">
      Still open: {{ electrical.missing.join(', ') }}.
    </p>
  </section>
</template>

<style scoped>
.electrical {
  margin: 0 14px 8px;
  border: 2px solid var(--ink);
  border-left-width: 10px;
  background: var(--sheet);
  padding: 8px 14px;
  display: grid;
  gap: 4px;
}
.named {
  border-color: var(--too-little);
}
.headline {
  font-size: 1.25rem;
  font-weight: 700;
}
.small strong {
  border: 2px solid currentcolor;
  border-radius: 4px;
  padding: 0 6px;
  margin-right: 4px;
}
</style>
