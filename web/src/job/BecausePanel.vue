<script setup lang="ts">
import type { Lane, Verdict } from '@/api/types';
import { methodSays } from '@/domain/language';
import TermText from '@/help/TermText.vue';
import InjectorMark from '@/strip/InjectorMark.vue';

/** Beside every result: the reasons, what other schools would say, what would change it. */
defineProps<{
  lane: Pick<Lane, 'place' | 'mark' | 'word' | 'sentence' | 'because' | 'would_change' | 'standing'>;
  verdict: Pick<Verdict, 'schools'>;
  noun?: string;
}>();
</script>

<template>
  <section class="because" aria-label="Because">
    <h2>
      <InjectorMark :mark="lane.standing ? 'not_measured' : lane.mark" :size="30" silent />
      {{ noun ?? 'Cylinder' }} {{ lane.place }}, {{ lane.standing || lane.word }}
    </h2>
    <p class="sentence"><TermText :text="lane.sentence" /></p>
    <slot />
    <ol>
      <li v-for="(step, i) in lane.because" :key="i">
        <TermText :text="step.says" />
        <code v-if="step.arithmetic">{{ step.arithmetic }}</code>
      </li>
    </ol>
    <h3 v-if="verdict.schools.length">What each method says</h3>
    <dl v-if="verdict.schools.length">
      <div v-for="school in verdict.schools" :key="school.name" :class="{ leads: school.leads }">
        <dt>{{ school.name }}<span v-if="school.leads" class="muted small"> · used here</span></dt>
        <dd :class="{ condemned: school.condemns.includes(lane.place) }">{{ methodSays(school) }}</dd>
      </div>
    </dl>
    <h3 v-if="lane.would_change.length">To settle</h3>
    <p v-for="hint in lane.would_change" :key="hint" class="muted"><TermText :text="hint" /></p>
  </section>
</template>

<style scoped>
.because {
  display: flex;
  flex-direction: column;
  gap: 8px;
  font-size: 0.95rem;
}
h2 {
  display: flex;
  gap: 8px;
  align-items: center;
}
h3 {
  margin-top: 8px;
}
.sentence {
  font-weight: 700;
}
ol {
  margin: 0;
  padding: 0;
  list-style: none;
  display: flex;
  flex-direction: column;
  gap: 7px;
}
code {
  display: block;
  font: inherit;
  font-size: 1.02rem;
  border-left: 4px solid var(--act);
  padding: 1px 0 1px 12px;
  margin-top: 2px;
}
dl {
  margin: 0;
}
dl > div {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 10px;
  border-top: 1px solid var(--line);
  padding: 4px 0;
}
dd {
  margin: 0;
  margin-left: auto;
  white-space: nowrap;
}
.condemned {
  color: var(--too-much);
  font-weight: 700;
}
</style>
