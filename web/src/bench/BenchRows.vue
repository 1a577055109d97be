<script setup lang="ts">
import type { BenchLine } from '@/api/types';
import InjectorMark from '@/strip/InjectorMark.vue';
import { BENCH } from '@/words';

/** Sessions in a list: the rail with its marks, and what it says. */
defineProps<{ lines: BenchLine[] }>();
</script>

<template>
  <ul class="lines">
    <li v-for="line in lines" :key="line.id">
      <RouterLink :to="`/bench/${line.id}/${line.speaks ?? 'visual'}`">
        <span class="what">
          <strong>{{ BENCH[line.kind] }}, {{ line.round }}</strong>
          <span class="muted small">session {{ line.number }} · job {{ line.jobs.join(' and ') }}</span>
        </span>
        <span class="rail" :aria-label="`${line.marks.length} injectors`">
          <span v-for="(mark, i) in line.marks" :key="i"
            ><i>{{ i + 1 }}</i
            ><InjectorMark :mark="mark" :size="22" silent
          /></span>
        </span>
        <span class="says"
          ><strong v-if="line.test">{{ line.test }}</strong> {{ line.headline }}</span
        >
      </RouterLink>
    </li>
  </ul>
</template>

<style scoped>
.lines {
  list-style: none;
  margin: 0;
  padding: 0;
}
a {
  display: grid;
  grid-template-columns: minmax(200px, 1fr) minmax(150px, 1fr) minmax(250px, 2fr);
  gap: 6px 16px;
  align-items: center;
  min-height: 64px;
  padding: 8px 22px;
  border-bottom: 1px solid var(--line);
  color: inherit;
  text-decoration: none;
}
a:hover {
  background: var(--act-soft);
}
.what,
.says {
  display: flex;
  flex-direction: column;
}
/* The rail: one pipe, the injectors hanging from it. */
.rail {
  display: flex;
  border-top: 7px solid var(--ink);
}
.rail span {
  width: 32px;
  display: grid;
  justify-items: center;
  border-left: 1px solid var(--line);
}
.rail i {
  font-style: normal;
  font-size: 0.78rem;
  color: var(--muted);
}
@media (max-width: 900px) {
  a {
    grid-template-columns: 1fr;
  }
}
</style>
