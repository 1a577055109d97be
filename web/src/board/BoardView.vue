<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { ask } from '@/api/client';
import { useDelayed } from '@/domain/useDelayed';
import type { Tone } from '@/api/types';
import { useKeys } from '@/shell/useKeys';
import { sayHeadline } from '@/shell/useHeadline';
import ShelfNav from '@/shell/ShelfNav.vue';
import StateLine from '@/shell/StateLine.vue';
import { stage } from '@/words';
import BoardHead from './BoardHead.vue';
import BenchRows from '@/bench/BenchRows.vue';
import BoardRow from './BoardRow.vue';
import { openJobList } from '@/board/words';
import { useProfile } from '@/start/useProfile';
import { firstStepsDone } from '@/start/words';

const PER_PAGE = 20;
const router = useRouter();
const typed = ref('');
/** What is typed filters as it stands still for a moment. */
const words = useDelayed(() => typed.value);
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
/** An empty workshop begins with its first steps. */
const start = useProfile();
watch(
  () => start.held.value,
  (held) => {
    if (held && !held.jobs && !start.dismissed.value) void router.replace('/start');
  },
  { immediate: true },
);
/** The first look waits for all three answers: nothing of it moves under a finger afterwards. */
const ready = computed(() => ![board, benches, instruments, start.query].some((one) => one.isPending.value));
const pages = computed(() => Math.ceil((found.value?.total ?? 0) / PER_PAGE));

watch(
  found,
  (found) =>
    sayHeadline('Job board', found ? `${found.jobs} jobs, ${found.waiting + found.unsure} need action` : ''),
  { immediate: true },
);

function open(at: number) {
  const card = found.value?.cards[at];
  if (card) router.push(`/jobs/${card.id}/${stage(card.waits.stage).path}`);
}
useKeys(
  [1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => ({
    key: String(n),
    word: openJobList(n),
    run: () => open(n - 1),
  })),
);
</script>

<template>
  <main>
    <BoardHead v-if="ready && found" v-model:tone="tone" :board="found" />
    <div class="tools">
      <label class="find">
        <input v-model="typed" type="search" placeholder="machine, customer, number" aria-label="Find jobs" />
      </label>
      <ShelfNav />
      <RouterLink class="main-act" to="/jobs/new">Book in a job <span class="key">N</span></RouterLink>
    </div>
    <p v-if="ready && start.record.value && !start.dismissed.value && start.done.value < 4" class="first">
      {{ firstStepsDone(start.done.value, start.steps.value.length) }}
      <RouterLink to="/start">Continue setup</RouterLink>
      <button class="link-act" type="button" @click="start.dismissed.value = true">Hide first steps</button>
    </p>
    <BenchRows v-if="ready && hanging.length && !words && !tone && page === 0" :lines="hanging" />
    <RouterLink v-if="ready && overdue.length" class="overdue" to="/instruments">
      {{ overdue.map((one) => one.instrument.name).join(', ') }}: overdue for calibration
    </RouterLink>
    <StateLine
      v-if="!ready || !found || found.cards.length === 0"
      :loading="!ready"
      :error="board.error.value"
      :empty="words || tone ? 'No matching job.' : 'No jobs yet. Book in the first one.'"
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
.first {
  padding: 4px 22px;
  background: var(--act-soft);
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  align-items: center;
}
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
