<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { ask } from '@/api/client';
import type { InstrumentView } from '@/api/types';
import ShelfNav from '@/shell/ShelfNav.vue';
import StateLine from '@/shell/StateLine.vue';
import { sayHeadline } from '@/shell/useHeadline';
import { INSTRUMENT } from '@/words';
import CanItDecide from './CanItDecide.vue';
import InstrumentForm from './InstrumentForm.vue';

/** What the workshop measures with, what each is worth, and when it is due. */
const cache = useQueryClient();
const query = useQuery({
  queryKey: ['instruments'],
  queryFn: () => ask('get', '/api/instruments'),
});
const all = computed(() => query.data.value ?? []);
const chosen = ref('');
const editing = ref<'' | 'new' | 'change'>('');
const view = computed(() => all.value.find((one) => one.instrument.id === chosen.value) ?? all.value[0]);
watch(
  all,
  (now) => {
    const overdue = now.filter((one) => one.overdue).length;
    sayHeadline('Instruments', overdue ? `${overdue} overdue for calibration` : 'none overdue');
  },
  { immediate: true },
);

function due(one: InstrumentView): string {
  const days = one.days_left;
  if (days == null) return 'no calibration date';
  if (days < 0) return `overdue by ${-days} days`;
  return days > 60 ? `due in ${Math.round(days / 30)} months` : `due in ${days} days`;
}

async function done(id?: string) {
  editing.value = '';
  if (!id) return;
  await cache.invalidateQueries({ queryKey: ['instruments'] });
  chosen.value = id;
}
</script>

<template>
  <main>
    <div class="top">
      <ShelfNav />
      <button class="main-act" type="button" @click="editing = 'new'">Add an instrument</button>
    </div>
    <StateLine
      v-if="!all.length && !editing"
      :loading="query.isPending.value"
      :error="query.error.value"
      empty="No instruments yet. Add bottles and meter first: their accuracy decides what can be judged."
      @again="query.refetch()"
    />
    <div v-else class="instruments">
      <ul>
        <li v-for="one in all" :key="one.instrument.id">
          <button
            type="button"
            :aria-pressed="view?.instrument.id === one.instrument.id"
            @click="((chosen = one.instrument.id), (editing = ''))"
          >
            <span class="name">{{ one.instrument.name }}</span>
            <span
              class="due"
              :class="{ overdue: one.overdue, soon: !one.overdue && (one.days_left ?? 99) < 30 }"
              >{{ due(one) }}</span
            >
            <span class="says">{{ INSTRUMENT[one.instrument.kind] }}: {{ one.says }}</span>
            <span class="muted small says">{{ one.instrument.certificate || 'no certificate' }}</span>
          </button>
        </li>
      </ul>
      <aside aria-label="Instrument">
        <InstrumentForm v-if="editing === 'new'" key="new" @done="done" />
        <InstrumentForm
          v-else-if="editing === 'change' && view"
          :key="view.instrument.id"
          :instrument="view.instrument"
          @done="done"
        />
        <template v-else-if="view">
          <CanItDecide :key="view.instrument.id" :view="view" />
          <button class="side-act" type="button" @click="editing = 'change'">
            Edit {{ view.instrument.name }}
          </button>
        </template>
      </aside>
    </div>
  </main>
</template>

<style scoped>
.top {
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding: 0 22px 0 10px;
  border-bottom: 1px solid var(--line);
}
.top .main-act {
  min-height: 40px;
}
.instruments {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 540px;
  min-height: calc(100vh - 103px);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li button {
  width: 100%;
  min-height: 84px;
  border: 0;
  border-bottom: 1px solid var(--line);
  border-left: 6px solid transparent;
  background: none;
  text-align: left;
  cursor: pointer;
  padding: 9px 22px 9px 16px;
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 14px;
}
li button[aria-pressed='true'] {
  background: var(--sheet);
  border-left-color: var(--act);
}
.name {
  font-weight: 700;
  font-size: 1.15rem;
}
.says {
  grid-column: 1 / -1;
}
.due {
  color: var(--muted);
}
.due.soon {
  color: var(--look);
  font-weight: 700;
}
.due.overdue {
  color: var(--too-much);
  font-weight: 700;
}
aside {
  background: var(--sheet);
  border-left: 1px solid var(--line);
  padding: 18px 24px 30px;
  display: grid;
  gap: 16px;
  align-content: start;
}
@media (max-width: 1100px) {
  .instruments {
    grid-template-columns: 1fr;
  }
}
</style>
