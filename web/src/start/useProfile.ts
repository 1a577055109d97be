import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { useLocalStorage } from '@vueuse/core';
import { computed } from 'vue';
import { ask } from '@/api/client';
import { count } from '@/domain/language';
import { bookFirst, loadStarter } from './words';
import { useBench } from '@/shell/useBench';

const dismissed = useLocalStorage('start-dismissed', false);

/** The workshop itself, how money is written here, and how far its first hour has come. */
export function useProfile() {
  const cache = useQueryClient();
  const bench = useBench();
  const query = useQuery({ queryKey: ['profile'], queryFn: () => ask('get', '/api/profile') });
  const record = computed(() => query.data.value);
  const profile = computed(() => record.value?.profile);
  const held = computed(() => record.value?.held);
  const steps = computed(() => [
    { id: 'name', word: 'Enter your name', done: !!held.value?.people && !!bench.id.value },
    { id: 'workshop', word: 'Enter the workshop', done: !!profile.value?.name },
    { id: 'library', word: loadStarter, done: !!held.value?.families },
    { id: 'job', word: bookFirst, done: !!held.value?.jobs },
  ]);
  return {
    query,
    record,
    profile,
    held,
    steps,
    done: computed(() => steps.value.filter((one) => one.done).length),
    dismissed,
    money: (value: number) => `${count(value)}${profile.value?.currency ? ` ${profile.value.currency}` : ''}`,
    refresh: () => cache.invalidateQueries({ queryKey: ['profile'] }),
  };
}
