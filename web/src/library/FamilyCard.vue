<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { ask } from '@/api/client';
import type { LimitEntry } from '@/api/types';
import { day } from '@/domain/time';
import StateLine from '@/shell/StateLine.vue';
import { COIL, DECISION, FAMILY_KIND, LIMIT_CHECK, REGIME } from '@/words';
import FamilyForm from './FamilyForm.vue';
import FamilySpec from './FamilySpec.vue';
import LimitForm from './LimitForm.vue';
import LimitGauge from './LimitGauge.vue';
import { useUnits } from '@/shell/useUnits';

/** One family: what is specified, its limits with their revisions, what the house measured. */
const props = defineProps<{ id: string }>();
const query = useQuery({
  queryKey: computed(() => ['library', 'family', props.id]),
  queryFn: () => ask('get', '/api/library/families/{family}', { params: { path: { family: props.id } } }),
});
const view = computed(() => query.data.value);
const people = useQuery({ queryKey: ['people'], queryFn: () => ask('get', '/api/people') });
const person = (id: string) => people.data.value?.find((one) => one.id === id)?.name ?? 'someone';
const editing = ref(false);
const adding = ref(false);

/** One group for each check and condition: the revision that holds, and those before it. */
const groups = computed(() => {
  const groups = new Map<string, { now: LimitEntry; window: string; older: LimitEntry[] }>();
  view.value?.limits.forEach((limit, i) => {
    const key = `${limit.check} ${limit.condition}`;
    const group = groups.get(key);
    if (group) group.older.push(limit);
    else groups.set(key, { now: limit, window: view.value!.windows[i]!, older: [] });
  });
  return [...groups.values()];
});
const own = computed(() => view.value?.references ?? []);
const measured = (group: { now: LimitEntry }) =>
  group.now.check === 'return_flow' ? (own.value[0]?.reference ?? null) : null;
const span = (limit: LimitEntry) => ({ lower: limit.lower ?? null, upper: limit.upper ?? null });
const { unit } = useUnits();
</script>

<template>
  <StateLine
    v-if="!view"
    :loading="query.isPending.value"
    :error="query.error.value"
    empty=""
    @again="query.refetch()"
  />
  <FamilyForm v-else-if="editing" :family="view.family" @done="editing = false" />
  <article v-else class="family">
    <header>
      <div>
        <h1>{{ view.family.name }}</h1>
        <p class="muted">
          {{ FAMILY_KIND[view.family.detail.kind ?? 'diesel_solenoid'] }}. {{ COIL[view.coil_class] }}
        </p>
      </div>
      <button class="side-act" type="button" @click="editing = true">Edit family</button>
    </header>
    <FamilySpec :detail="view.family.detail" :tightening="view.tightening" />
    <p v-if="view.family.detail.note" class="caution">{{ view.family.detail.note }}</p>

    <section v-if="view.turned_out.length" class="turned">
      <h2>Outcome of decisions in this workshop</h2>
      <p v-for="one in view.turned_out" :key="one.decision">
        <strong>{{ DECISION[one.decision] }}</strong>: {{ one.injectors }} in closed jobs,
        {{ one.came_back }} of jobs that came back
      </p>
      <p class="muted small">
        {{
          view.counted_odds == null
            ? 'Too few to calculate: the workshop rule for comebacks applies.'
            : `Comeback chance if left in: ${(100 * view.counted_odds).toFixed(1)} %.`
        }}
      </p>
    </section>
    <div class="row">
      <h2>Limits</h2>
      <button class="link-act" type="button" @click="adding = !adding">
        {{ adding ? 'Close form' : 'Add or revise limit' }}
      </button>
    </div>
    <LimitForm v-if="adding" :family="view.family" @done="adding = false" />
    <p v-if="!groups.length" class="muted">
      None known. That is normal: injectors are compared with one another.
    </p>
    <section v-for="group in groups" :key="group.now.id" class="limit">
      <h3>
        {{ LIMIT_CHECK[group.now.check]
        }}<template v-if="group.now.condition">, {{ group.now.condition }}</template>
      </h3>
      <p class="window">{{ group.window }}</p>
      <LimitGauge
        :now="span(group.now)"
        :older="group.older.map(span)"
        :reference="measured(group)"
        unit=""
      />
      <p class="muted small">
        <template v-if="/[a-zA-Z°]/.test(group.now.typed)">Entered as {{ group.now.typed }}. </template
        >{{ group.now.source }}, revision {{ group.now.revision
        }}<template v-if="group.now.approved"
          >, approved by {{ person(group.now.approved.by) }} on {{ day(group.now.approved.at) }}</template
        ><template v-if="group.older.length"
          >; previously
          <span v-for="(old, i) in group.older" :key="old.id"
            >{{ i ? ', ' : '' }}{{ old.typed }} ({{ old.source }})</span
          ></template
        >.
      </p>
    </section>

    <template v-if="own.length">
      <h2>Measured in this workshop</h2>
      <section v-for="one in own" :key="one.regime" class="limit">
        <h3>Leak-off flow, {{ REGIME[one.regime].toLowerCase() }}</h3>
        <LimitGauge
          v-if="one.reference"
          :now="{ lower: null, upper: null }"
          :reference="one.reference"
          :unit="unit('ml/min')"
        />
        <p>{{ one.reference?.says ?? one.refused }}</p>
      </section>
    </template>
  </article>
</template>

<style scoped>
.family {
  display: grid;
  gap: 14px;
  max-width: 760px;
}
header,
.row {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
}
h1 {
  font-size: 1.9rem;
}
.limit {
  display: grid;
  gap: 2px;
  border-top: 1px solid var(--line);
  padding-top: 8px;
}
h3::first-letter {
  text-transform: uppercase;
}
.window {
  font-size: 1.35rem;
  font-weight: 700;
}
</style>
