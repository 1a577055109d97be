<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { ask, refusal } from '@/api/client';
import { moment } from '@/domain/time';
import { useBench } from '@/shell/useBench';
import { backupsOverdue, everyHours, makesNone, size, noBackupYet, restoreHint } from './words';

/** Backups: the age of the last one first, as that is what a bad day asks for. */
const bench = useBench();
const cache = useQueryClient();
const query = useQuery({
  queryKey: ['backups'],
  queryFn: () => ask('get', '/api/backups'),
  refetchInterval: ({ state }) => (state.data?.running ? 1_000 : 60_000),
});
const view = computed(() => query.data.value);
const last = computed(() => view.value?.newest[0]);
const may = computed(() => bench.open.value || bench.sign.value?.person?.role === 'owner');
const wrong = ref('');

async function make() {
  try {
    cache.setQueryData(['backups'], await ask('post', '/api/backups'));
    wrong.value = '';
  } catch (error) {
    wrong.value = refusal(error).message;
  }
}
</script>

<template>
  <section v-if="view">
    <h1>Backups</h1>
    <p v-if="!view.to" class="muted">{{ makesNone }}</p>
    <template v-else>
      <p v-if="last" class="last" :class="{ late: view.overdue }">
        <strong>{{ moment(last.at) }}</strong> {{ last.jobs }} jobs, {{ size(last.bytes) }}, checked
      </p>
      <p v-else class="last late">{{ noBackupYet }}</p>
      <p v-if="view.overdue" class="wrong">{{ backupsOverdue }}</p>
      <p v-if="view.failed" class="wrong" role="alert">{{ view.failed }}</p>
      <p class="muted">{{ everyHours(view.every, view.keep) }}</p>
      <p class="muted small">
        <code>{{ view.to }}</code>
      </p>
      <ul v-if="view.newest.length > 1" class="muted small">
        <li v-for="one in view.newest.slice(1)" :key="one.at">
          {{ moment(one.at) }}: {{ one.jobs }} jobs, {{ size(one.bytes) }}
        </li>
      </ul>
      <button v-if="may" class="side-act" type="button" :disabled="view.running" @click="make">
        {{ view.running ? 'Making backup…' : 'Make backup' }}
      </button>
      <p class="muted small">{{ restoreHint }}</p>
    </template>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
  align-content: start;
  justify-items: start;
}
.last {
  border-left: 6px solid var(--inside);
  padding-left: 12px;
  font-size: 1.1rem;
}
.late {
  border-color: var(--too-much);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
code {
  overflow-wrap: anywhere;
}
</style>
