<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, watch } from 'vue';
import { ask } from '@/api/client';
import type { Mark, Passport } from '@/api/types';
import { day } from '@/domain/time';
import ShelfNav from '@/shell/ShelfNav.vue';
import StateLine from '@/shell/StateLine.vue';
import { sayHeadline } from '@/shell/useHeadline';
import InjectorMark from '@/strip/InjectorMark.vue';
import { DECISION } from '@/words';
import TrendChart from './TrendChart.vue';

/** One injector's life: its jobs stand side by side, oldest left, like the cylinders of a strip. */
const props = defineProps<{ id: string }>();
const query = useQuery({
  queryKey: computed(() => ['passport', props.id]),
  queryFn: () => ask('get', '/api/passports/{injector}', { params: { path: { injector: props.id } } }),
});
const passport = computed(() => query.data.value);
const HELD: Record<string, { mark: Mark; word: string }> = {
  open: { mark: 'not_measured', word: 'open' },
  held: { mark: 'inside', word: 'held' },
  came_back: { mark: 'too_much', word: 'came back' },
};
type Stay = Passport['stays'][number];
const place = (stay: Stay) =>
  stay.cylinder == null
    ? `${stay.came_from} → out`
    : stay.cylinder === stay.came_from
      ? `${stay.cylinder}`
      : `${stay.came_from} → ${stay.cylinder}`;
const trends = computed(() => passport.value?.trends.filter((one) => one.points.length > 1) ?? []);
watch(
  passport,
  (found) =>
    found && sayHeadline(`Injector ${found.label || 'without a label'}`, found.family ?? 'family unknown'),
  { immediate: true },
);
</script>

<template>
  <main>
    <div class="top"><ShelfNav /></div>
    <StateLine
      v-if="!passport"
      :loading="query.isPending.value"
      :error="query.error.value"
      @again="query.refetch()"
    />
    <div v-else class="passport">
      <header>
        <h1>{{ passport.label || 'No label' }}</h1>
        <p class="bench-finding">
          <strong>{{ passport.says }}</strong>
          <span v-for="one in trends" :key="one.feature + one.condition">{{ one.says }}</span>
        </p>
        <RouterLink class="side-act" to="/passports">Find another injector</RouterLink>
      </header>
      <section class="life" aria-label="Jobs, oldest left">
        <div class="tube" aria-hidden="true"></div>
        <article v-for="stay in passport.stays" :key="stay.job">
          <svg viewBox="0 0 24 22" width="28" height="26" aria-hidden="true">
            <path d="M3 1 H21 V10 L12 19 L3 10 Z" />
          </svg>
          <p class="muted small">{{ day(stay.taken_in) }}</p>
          <p class="place">
            {{ place(stay) }}
            <span class="unit">{{ stay.fitted_here ? 'fitted here' : 'cylinder' }}</span>
          </p>
          <h2>
            <RouterLink :to="`/jobs/${stay.job}/decide`">{{ stay.machine }}</RouterLink>
          </h2>
          <p class="muted small">
            job {{ stay.number }}<template v-if="stay.usage">, {{ stay.usage }}</template>
          </p>
          <ul>
            <li v-for="(one, i) in stay.readings" :key="i" :data-mark="one.mark">
              <InjectorMark :mark="one.mark" :size="22" silent />
              <span
                ><strong>{{ one.shown }}</strong> <span class="muted">{{ one.what }}</span></span
              >
            </li>
          </ul>
          <p v-for="one in stay.codes" :key="one.code + one.signed.at" class="code">{{ one.code }}</p>
          <p v-for="one in stay.decisions" :key="one.at">
            <strong>{{ DECISION[one.decision] }}.</strong> {{ one.reason }}
            <span class="muted small">{{ one.by }}, {{ day(one.at) }}</span>
          </p>
          <p v-if="stay.parts.length" class="small">New: {{ stay.parts.join(', ') }}.</p>
          <p class="held" :data-mark="HELD[stay.held]!.mark">
            <InjectorMark :mark="HELD[stay.held]!.mark" :size="26" silent />
            <strong>{{ HELD[stay.held]!.word }}</strong> <span class="small">{{ stay.outcome }}</span>
          </p>
        </article>
      </section>
      <section v-if="trends.length" class="trends">
        <TrendChart v-for="one in trends" :key="one.feature + one.condition" :trend="one" />
      </section>
    </div>
  </main>
</template>

<style scoped>
.top {
  padding: 0 10px;
  border-bottom: 1px solid var(--line);
}
.passport {
  padding: 12px 22px 40px;
  display: grid;
  gap: 18px;
}
header {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 18px;
  align-items: center;
}
h1 {
  font-size: 2.4rem;
}
.bench-finding {
  margin: 0;
}
.life {
  position: relative;
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(230px, 360px);
  overflow-x: auto;
}
.tube {
  position: absolute;
  left: 0;
  right: 0;
  top: 6px;
  height: 12px;
  border-radius: 6px;
  background: var(--act);
}
article {
  position: relative;
  padding: 4px 14px 8px 12px;
  border-left: 1px solid var(--line);
  display: grid;
  gap: 4px;
  align-content: start;
}
article svg path {
  fill: var(--act);
  stroke: var(--paper);
  stroke-width: 2;
}
.place {
  font-size: 2rem;
  font-weight: 700;
  line-height: 1.1;
}
ul {
  list-style: none;
  margin: 4px 0;
  padding: 0;
  display: grid;
  gap: 3px;
}
li {
  display: grid;
  grid-template-columns: 28px 1fr;
  align-items: center;
}
.code {
  font-weight: 700;
  letter-spacing: 0.04em;
}
.held {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 8px;
  border-top: 1px solid var(--line);
  padding-top: 6px;
}
.trends {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(340px, 1fr));
  gap: 18px;
}
@media (max-width: 900px) {
  header {
    grid-template-columns: 1fr;
  }
}
</style>
