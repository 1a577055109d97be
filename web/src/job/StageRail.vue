<script setup lang="ts">
import { computed } from 'vue';
import type { JobView, Stage } from '@/api/types';
import { STAGES } from '@/words';

/** The stages hang on a fuel rail like injectors; the filled part is how far the job is. */
const props = defineProps<{ here: number; view: JobView }>();

const worked = computed(() => new Set<Stage>(props.view.current.worked));
const furthest = computed(() => Math.max(...STAGES.map((stage, i) => (worked.value.has(stage.id) ? i : 0))));
const filled = computed(() => `${((Math.max(furthest.value, 0) + 0.5) / STAGES.length) * 100}%`);
</script>

<template>
  <nav class="rail" aria-label="Stages of the job">
    <div class="tube" aria-hidden="true"><div class="fuel" :style="{ width: filled }"></div></div>
    <RouterLink
      v-for="(stage, i) in STAGES"
      :key="stage.id"
      class="stage"
      :class="{ here: i === here, worked: worked.has(stage.id) }"
      :to="`/jobs/${view.file.job.id}/${stage.path}`"
      :aria-current="i === here ? 'step' : undefined"
    >
      <svg viewBox="0 0 24 22" width="24" height="22" aria-hidden="true">
        <path d="M3 1 H21 V10 L12 19 L3 10 Z" />
      </svg>
      <span>{{ stage.word }}</span>
    </RouterLink>
  </nav>
</template>

<style scoped>
.rail {
  position: relative;
  display: grid;
  grid-template-columns: repeat(8, minmax(0, 1fr));
  background: var(--sheet);
  border-bottom: 1px solid var(--line);
  padding: 0 110px 0 22px;
}
.tube {
  position: absolute;
  left: 22px;
  right: 110px;
  top: 10px;
  height: 12px;
  border-radius: 6px;
  background: var(--rest);
  overflow: hidden;
}
.fuel {
  height: 100%;
  background: var(--act);
}
.stage {
  position: relative;
  min-height: 58px;
  padding-top: 12px;
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 1px;
  color: var(--muted);
  text-decoration: none;
  font-size: 0.92rem;
  text-align: center;
}
path {
  fill: var(--rest);
  stroke: var(--edge);
  stroke-width: 2.4;
}
.worked {
  color: var(--ink);
}
.worked path {
  fill: var(--act);
  stroke: var(--act);
}
.here {
  color: var(--ink);
  font-weight: 700;
}
.here path {
  fill: var(--sheet);
  stroke: var(--act);
}
@media (max-width: 820px) {
  .stage {
    font-size: 0.75rem;
  }
}
</style>
