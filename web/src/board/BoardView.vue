<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { ask } from '@/api/client';
import type { Tone } from '@/api/types';
import { useKeys } from '@/shell/useKeys';
import { sayHeadline } from '@/shell/useHeadline';
import ShelfNav from '@/shell/ShelfNav.vue';
import StateLine from '@/shell/StateLine.vue';
import { stage } from '@/words';
import BoardHead from './BoardHead.vue';
import BenchRows from '@/bench/BenchRows.vue';
import BoardRow from './BoardRow.vue';

const PER_PAGE = 20;
const router = useRouter();
const words = ref('');
const tone = ref<Tone | ''>('');
const page = ref(0);
watch([words, tone], () => (page.value = 0));

const board = useQuery({
  queryKey: computed(() => ['board', words.value, tone.value, page.value]),
  queryFn: () =>
    ask('get', '/api/board', {
      params: {
        query: { q: words.value, page: page.value, per_page: PER_PAGE, tone: tone.value || undefined },
      },
    }),
  placeholderData: keepPreviousData,
});
const instruments = useQuery({
  queryKey: ['instruments'],
  queryFn: () => ask('get', '/api/instruments'),
});
/** What hangs on a bench, newest first; nothing that was closed with its final round. */
const benches = useQuery({
  queryKey: ['benches', 'board'],
  queryFn: () => ask('get', '/api/bench', { params: { query: { per_page: 8 } } }),
});
const hanging = computed(() =>
  (benches.data.value?.lines ?? []).filter((line) => line.round !== 'final').slice(0, 2),
);
const overdue = computed(() => (instruments.data.value ?? []).filter((one) => one.overdue));
const found = computed(() => board.data.value);
const pages = computed(() => Math.ceil((found.value?.total ?? 0) / PER_PAGE));

watch(
  found,
  (found) =>
    sayHeadline(
      'On the benches',
      found ? `${found.jobs} jobs, ${found.waiting + found.unsure} wait for someone` : '',
    ),
  { immediate: true },
);

function open(at: number) {
  const card = found.value?.cards[at];
  if (card) router.push(`/jobs/${card.id}/${stage(card.waits.stage).path}`);
}
useKeys(
  [1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => ({
    key: String(n),
    word: `open job ${n} of the list`,
    run: () => open(n - 1),
  })),
);
</script>

<template>
  <main>
    <BoardHead v-if="found" v-model:tone="tone" :board="found" />
    <div class="tools">
      <label class="find">
        <input
          v-model.lazy="words"
          type="search"
          placeholder="machine, customer, number"
          aria-label="Find jobs"
        />
      </label>
      <ShelfNav />
      <RouterLink class="main-act" to="/jobs/new">Take in a job <span class="key">N</span></RouterLink>
    </div>
    <BenchRows v-if="hanging.length && !words && !tone && page === 0" :lines="hanging" />
    <RouterLink v-if="overdue.length" class="overdue" to="/instruments">
      {{ overdue.map((one) => one.instrument.name).join(', ') }}: overdue for calibration
    </RouterLink>
    <StateLine
      v-if="!found || found.cards.length === 0"
      :loading="board.isPending.value"
      :error="board.error.value"
      :empty="words || tone ? 'No job fits that.' : 'No job yet. Take one in.'"
      @again="board.refetch()"
    />
    <ul v-else>
      <BoardRow v-for="card in found.cards" :key="card.id" :card="card" />
    </ul>
    <nav v-if="pages > 1" class="pages" aria-label="Pages">
      <button class="side-act" type="button" :disabled="page === 0" @click="page--">Newer</button>
      <span>{{ page + 1 }} of {{ pages }}</span>
      <button class="side-act" type="button" :disabled="page + 1 >= pages" @click="page++">Older</button>
    </nav>
  </main>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  padding: 10px 22px;
}
.find {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
}
input {
  min-height: 46px;
  width: 250px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--sheet);
  padding: 0 12px;
}
.overdue {
  display: flex;
  align-items: center;
  min-height: 44px;
  padding: 0 22px;
  color: var(--look);
  font-weight: 700;
  border-top: 1px solid var(--line);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  background: var(--sheet);
  border-top: 1px solid var(--line);
}
.pages {
  display: flex;
  gap: 18px;
  align-items: center;
  justify-content: center;
  padding: 16px;
}
</style>
