<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { ask } from '@/api/client';
import type { Layout } from '@/api/types';
import StateLine from '@/shell/StateLine.vue';
import StripFrame from '@/strip/StripFrame.vue';
import { END, FUEL } from '@/words';

/** An engine, drawn as the strip will be, or a bench test plan. */
const props = defineProps<{ id: string }>();
const query = useQuery({
  queryKey: computed(() => ['library', 'item', props.id]),
  queryFn: () => ask('get', '/api/library/items/{item}', { params: { path: { item: props.id } } }),
});
const item = computed(() => query.data.value);
const engine = computed(() => (item.value?.detail.kind === 'engine' ? item.value.detail : undefined));
const plan = computed(() => (item.value?.detail.kind === 'test_plan' ? item.value.detail : undefined));
const layout = computed<Layout | undefined>(() => engine.value?.layout);
const drawn = useQuery({
  queryKey: computed(() => ['layout', layout.value]),
  queryFn: () => ask('post', '/api/layout', { body: layout.value! }),
  enabled: computed(() => !!layout.value),
});
</script>

<template>
  <StateLine
    v-if="!item"
    :loading="query.isPending.value"
    :error="query.error.value"
    empty=""
    @again="query.refetch()"
  />
  <article v-else class="item">
    <h1>{{ item.name }}</h1>
    <template v-if="engine">
      <p class="muted">
        {{ FUEL[engine.fuel_system] }}, cylinder 1 at the {{ END[engine.layout.first_at] }}.
      </p>
      <StripFrame
        v-if="drawn.data.value"
        :banks="drawn.data.value.banks"
        :first-at="engine.layout.first_at"
        gutter="74px"
      />
      <p v-if="engine.note">{{ engine.note }}</p>
    </template>
    <template v-if="plan">
      <p class="muted">Bench plan of {{ plan.family }}, in running order.</p>
      <table>
        <thead>
          <tr>
            <th>Point</th>
            <th>Rail pressure <span class="unit">bar</span></th>
            <th>Energising time <span class="unit">ms</span></th>
            <th>Strokes</th>
            <th>Fluid <span class="unit">°C</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="point in plan.points" :key="point.name">
            <th>{{ point.name }}</th>
            <td>{{ point.rail_kpa / 100 }}</td>
            <td>{{ point.energising_ms || 'still' }}</td>
            <td>{{ point.strokes }}</td>
            <td>{{ point.temperature_c ?? '' }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="plan.note" class="caution">{{ plan.note }}</p>
    </template>
    <p class="muted small">Revision {{ item.revision }}</p>
  </article>
</template>

<style scoped>
.item {
  display: grid;
  gap: 14px;
  max-width: 760px;
}
h1 {
  font-size: 1.9rem;
}
table {
  border-collapse: collapse;
}
th,
td {
  text-align: right;
  padding: 8px 10px;
  border-bottom: 1px solid var(--line);
}
tbody td {
  font-size: 1.2rem;
  font-weight: 700;
}
th:first-child {
  text-align: left;
}
</style>
