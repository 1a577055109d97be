<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { ask } from '@/api/client';
import ShelfNav from '@/shell/ShelfNav.vue';
import { sayHeadline } from '@/shell/useHeadline';
import StateLine from '@/shell/StateLine.vue';
import BenchRows from './BenchRows.vue';

/** Every bench session, newest first. */
const PER_PAGE = 20;
const page = ref(1);
const sessions = useQuery({
  queryKey: computed(() => ['benches', page.value]),
  queryFn: () => ask('get', '/api/bench', { params: { query: { page: page.value, per_page: PER_PAGE } } }),
  placeholderData: keepPreviousData,
});
const pages = computed(() => Math.ceil((sessions.data.value?.total ?? 0) / PER_PAGE));
sayHeadline('Bench sessions', 'newest first');
</script>

<template>
  <main>
    <div class="tools">
      <ShelfNav />
      <RouterLink class="main-act" to="/bench/new">Start a bench session</RouterLink>
    </div>
    <StateLine
      v-if="!sessions.data.value?.lines.length"
      :loading="sessions.isPending.value"
      :error="sessions.error.value"
      empty="No bench sessions yet. Start one."
      @again="sessions.refetch()"
    />
    <BenchRows v-else :lines="sessions.data.value.lines" />
    <p v-if="pages > 1" class="pages">
      <button class="side-act" type="button" :disabled="page === 1" @click="page -= 1">Newer</button>
      page {{ page }} of {{ pages }}
      <button class="side-act" type="button" :disabled="page === pages" @click="page += 1">Older</button>
    </p>
  </main>
</template>

<style scoped>
.tools,
.pages {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  padding: 12px 22px;
}
</style>
