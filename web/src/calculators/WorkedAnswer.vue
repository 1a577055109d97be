<script setup lang="ts">
import { computed } from 'vue';
import type { Refusal } from '@/api/client';
import type { Worked } from '@/api/types';

/** The answer, large, and how it comes about. */
const props = defineProps<{ answer: Worked | undefined; wrong: Refusal | null }>();
const main = computed(() => props.answer?.results[0]);
const rest = computed(() => props.answer?.results.slice(1) ?? []);
</script>

<template>
  <p v-if="wrong" class="hold" role="alert">
    {{ wrong.about('') || 'Enter a valid number.' }}
  </p>
  <template v-else-if="answer && main">
    <p class="main">
      <span class="word muted">{{ main.word }}</span>
      <strong
        >{{ main.shown }} <span class="unit">{{ main.unit }}</span></strong
      >
    </p>
    <dl>
      <div v-for="(line, i) in rest" :key="i">
        <dt class="muted">{{ line.word }}</dt>
        <dd>
          {{ line.shown }} <span class="unit">{{ line.unit }}</span>
        </dd>
      </div>
    </dl>
    <h2>Because</h2>
    <ol>
      <li v-for="(why, i) in answer.steps" :key="i">
        {{ why.says }}
        <code v-if="why.arithmetic">{{ why.arithmetic }}</code>
      </li>
    </ol>
    <p v-for="warning in answer.warnings" :key="warning" class="caution">{{ warning }}</p>
  </template>
</template>

<style scoped>
.main {
  display: grid;
}
.main strong {
  font-size: 3.4rem;
  line-height: 1.1;
}
.main .unit {
  font-size: 0.4em;
}
.hold {
  font-size: 1.3rem;
  color: var(--too-much);
  font-weight: 700;
}
dl {
  margin: 0;
  width: 100%;
}
dl > div {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  border-top: 1px solid var(--line);
  padding: 6px 0;
}
dd {
  margin: 0;
  font-size: 1.25rem;
  font-weight: 700;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 8px;
}
code {
  display: block;
  font: inherit;
  border-left: 4px solid var(--act);
  padding: 1px 0 1px 12px;
  margin-top: 2px;
}
</style>
