<script setup lang="ts">
import { useRoute } from 'vue-router';

/** What stands on the shelf beside the benches: usable without a job. */
const SHELF = [
  { word: 'Bench', to: '/bench' },
  { word: 'Match', to: '/match' },
  { word: 'History', to: '/passports' },
  { word: 'Customers', to: '/customers' },
  { word: 'Calculators', to: '/calculators' },
  { word: 'Library', to: '/library' },
  { word: 'Instruments', to: '/instruments' },
  { word: 'Connections', to: '/connections' },
  { word: 'Trainer', to: '/trainer' },
  { word: 'Rules', to: '/rules' },
  { word: 'Workshop', to: '/workshop' },
];
const route = useRoute();
const here = (to: string) => route.path === to || route.path.startsWith(`${to}/`);
</script>

<template>
  <nav class="shelf" aria-label="Shelf">
    <RouterLink v-for="one in SHELF" :key="one.to" :to="one.to" :class="{ here: here(one.to) }">{{
      one.word
    }}</RouterLink>
  </nav>
</template>

<style scoped>
.shelf {
  display: flex;
  flex-wrap: wrap;
  gap: 0 2px;
}
a {
  min-height: 46px;
  display: inline-flex;
  align-items: center;
  padding: 0 9px;
  color: var(--ink);
  text-decoration: none;
  border-bottom: 4px solid transparent;
}
a:hover {
  border-bottom-color: var(--line);
}
a.here {
  font-weight: 700;
  border-bottom-color: var(--act);
}
/* Upright on a tablet: one row of its own below what the screen is for. */
@media (max-width: 900px) {
  .shelf {
    order: 3;
    width: 100%;
    gap: 0;
  }
  a {
    padding: 0 6px;
  }
}
@media print {
  .shelf {
    display: none;
  }
}
</style>
