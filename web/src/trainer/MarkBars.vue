<script setup lang="ts">
import type { SkillMark } from '@/api/types';
import { SKILL } from '@/words';

/** One bar for each skill, of a hundred, with the marks of earlier cases as ticks above it. */
defineProps<{ marks: SkillMark[]; earlier?: SkillMark[][] }>();
const of = (list: SkillMark[], skill: SkillMark['skill']) =>
  list.find((one) => one.skill === skill)?.mark ?? 0;
</script>

<template>
  <dl class="marks">
    <template v-for="one in marks" :key="one.skill">
      <dt>{{ SKILL[one.skill] }}</dt>
      <dd>
        <svg viewBox="0 0 100 16" preserveAspectRatio="none" aria-hidden="true">
          <rect class="rest" x="0" y="5" width="100" height="11" />
          <rect class="mark" :class="{ low: one.mark < 60 }" x="0" y="5" :width="one.mark" height="11" />
          <line
            v-for="(list, i) in earlier ?? []"
            :key="i"
            :x1="of(list, one.skill)"
            :x2="of(list, one.skill)"
            y1="0"
            y2="4"
          />
        </svg>
        <strong>{{ one.mark }}</strong>
      </dd>
    </template>
  </dl>
</template>

<style scoped>
.marks {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 8px 16px;
  align-items: center;
}
dd {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 2.6rem;
  gap: 12px;
  align-items: center;
  margin: 0;
}
svg {
  width: 100%;
  height: 26px;
}
.rest {
  fill: var(--rest);
}
.mark {
  fill: var(--inside);
}
.low {
  fill: var(--look);
}
line {
  stroke: var(--ink);
  stroke-width: 0.9;
}
strong {
  font-size: 1.35rem;
  text-align: right;
}
</style>
