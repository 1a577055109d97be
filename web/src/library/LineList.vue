<script setup lang="ts">
import { useRoute } from 'vue-router';
import type { LibraryLine, LineKind } from '@/api/types';
import { addressOf } from './addressOf';

/** Lines of the library; the one that a key would open is marked, so is the one that is open. */
defineProps<{ lines: LibraryLine[]; at: number }>();
const route = useRoute();
const KIND: Record<LineKind, string> = {
  family: 'family',
  limit: 'limit',
  engine: 'engine',
  test_plan: 'test plan',
  preset: 'preset',
};
</script>

<template>
  <ul class="lines">
    <li v-for="(line, i) in lines" :key="line.kind + line.id + line.says">
      <RouterLink :to="addressOf(line)" :class="{ at: i === at, here: route.path === addressOf(line) }">
        <span class="title">{{ line.title }}</span>
        <span class="kind muted small">{{ KIND[line.kind] }}</span>
        <span class="says">{{ line.says }}</span>
        <span class="muted small note">{{ line.note }}</span>
      </RouterLink>
    </li>
  </ul>
</template>

<style scoped>
.lines {
  list-style: none;
  margin: 0;
  padding: 0;
  overflow-y: auto;
  flex: 1;
  border-top: 1px solid var(--line);
}
.lines a {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 10px;
  padding: 8px 22px 9px 16px;
  border-left: 6px solid transparent;
  border-bottom: 1px solid var(--line);
  color: var(--ink);
  text-decoration: none;
}
.lines a.at,
.lines a:hover {
  background: var(--act-soft);
}
.lines a.here {
  border-left-color: var(--act);
  background: var(--sheet);
}
.title {
  font-weight: 700;
}
.says,
.note {
  grid-column: 1 / -1;
  overflow-wrap: anywhere;
}
</style>
