<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { ask } from '@/api/client';
import type { Layout } from '@/api/types';
import StateLine from '@/shell/StateLine.vue';
import EngineForm from './EngineForm.vue';
import PlanForm from './PlanForm.vue';
import PresetForm from './PresetForm.vue';
import StripFrame from '@/strip/StripFrame.vue';
import { END, FUEL } from '@/words';

/** An engine, drawn as the strip will be, a bench test plan, or a preset of a check. */
const props = defineProps<{ id: string }>();
const query = useQuery({
  queryKey: computed(() => ['library', 'item', props.id]),
  queryFn: () => ask('get', '/api/library/items/{item}', { params: { path: { item: props.id } } }),
});
const item = computed(() => query.data.value?.item);
const editing = ref(false);
watch(
  () => props.id,
  () => (editing.value = false),
);
const said = computed(() => query.data.value?.points ?? []);
const engine = computed(() => (item.value?.detail.kind === 'engine' ? item.value.detail : undefined));
const preset = computed(() => (item.value?.detail.kind === 'preset' ? item.value.detail : undefined));
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
  <EngineForm v-else-if="editing && engine" :view="query.data.value" @done="editing = false" />
  <PlanForm v-else-if="editing && plan" :view="query.data.value" @done="editing = false" />
  <PresetForm v-else-if="editing && preset" :view="query.data.value!" @done="editing = false" />
  <article v-else class="item">
    <header>
      <h1>{{ item.name }}</h1>
      <button class="side-act" type="button" @click="editing = true">
        {{ engine ? 'Edit engine' : plan ? 'Edit plan' : 'Edit preset' }}
      </button>
    </header>
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
    <template v-if="preset">
      <ul>
        <li v-for="line in query.data.value?.settings" :key="line">{{ line }}</li>
      </ul>
      <p v-if="preset.note" class="caution">{{ preset.note }}</p>
    </template>
    <template v-if="plan">
      <p class="muted">Bench plan of {{ plan.family }}, in running order.</p>
      <table>
        <thead>
          <tr>
            <th>Point</th>
            <th>Rail pressure</th>
            <th>Energising time <span class="unit">ms</span></th>
            <th>Strokes</th>
            <th>Fluid</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(point, i) in plan.points" :key="point.name">
            <th>{{ point.name }}</th>
            <td>{{ said[i]?.rail }}</td>
            <td>{{ point.energising_ms || 'still' }}</td>
            <td>{{ point.seconds == null ? point.strokes : `${point.seconds} s` }}</td>
            <td>{{ said[i]?.temperature }}</td>
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
header {
  display: flex;
  justify-content: space-between;
  align-items: center;
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
