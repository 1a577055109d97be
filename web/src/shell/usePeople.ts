import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed } from 'vue';
import { ask } from '@/api/client';
import type { PersonView } from '@/api/types';
import { useBench } from './useBench';

/** Everyone of the workshop; those who are still chosen; and who is working now. */
export function usePeople() {
  const cache = useQueryClient();
  const bench = useBench();
  const query = useQuery({ queryKey: ['people'], queryFn: () => ask('get', '/api/people') });
  const all = computed<PersonView[]>(() => query.data.value ?? []);
  const active = computed(() => all.value.filter((one) => !one.retired));
  const me = computed(() => all.value.find((one) => one.id === bench.id.value));
  const took = (people: PersonView[]) => cache.setQueryData(['people'], people);
  const again = () => cache.invalidateQueries({ queryKey: ['people'] });
  return { all, active, me, took, again };
}
