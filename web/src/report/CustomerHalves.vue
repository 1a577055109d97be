<script setup lang="ts">
import type { ReportView } from '@/api/types';
import { useProfile } from '@/start/useProfile';

/** What was done, what is proven, what is not; and what one or all would cost. */
defineProps<{ report: ReportView }>();
const { money } = useProfile();
</script>

<template>
  <div class="halves">
    <section v-if="report.plain.done.length">
      <h2>What was done</h2>
      <ul>
        <li v-for="line in report.plain.done" :key="line">{{ line }}</li>
      </ul>
    </section>
    <section v-if="report.plain.proven.length">
      <h2>What was proven</h2>
      <ul>
        <li v-for="line in report.plain.proven" :key="line">{{ line }}</li>
      </ul>
    </section>
    <section v-if="report.plain.open.length">
      <h2>Not proven, and why</h2>
      <ul>
        <li v-for="line in report.plain.open" :key="line">{{ line }}</li>
      </ul>
    </section>
    <section v-if="report.cost">
      <h2>Cost of one or all</h2>
      <p v-for="option in report.cost.options" :key="option.name" class="option">
        <span>{{ option.name }}</span>
        <strong>{{ money(option.parts + option.labour) }}</strong>
      </p>
    </section>
  </div>
</template>

<style scoped>
.halves {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 14px 30px;
}
.halves ul {
  margin: 4px 0 0;
  padding-left: 18px;
}
.halves section {
  break-inside: avoid;
}
.option {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 12px;
  border-bottom: 1px solid var(--line);
  padding: 3px 0;
}
.option .muted {
  grid-column: 1 / -1;
}
@media print {
  .small,
  .option {
    font-size: 8.5pt;
  }
  .halves {
    gap: 8px 26px;
  }
}
</style>
