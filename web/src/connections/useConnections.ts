import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed } from 'vue';
import { ask } from '@/api/client';
import type { Quantity } from '@/api/types';

/** Instruments that are read over the network. */
export function useConnections() {
  const cache = useQueryClient();
  const query = useQuery({ queryKey: ['connections'], queryFn: () => ask('get', '/api/connections') });
  const all = computed(() => query.data.value ?? []);
  return {
    query,
    all,
    /** Those that show this. */
    showing: (quantity: Quantity) => all.value.filter((one) => one.measures.includes(quantity)),
    anew: () => cache.invalidateQueries({ queryKey: ['connections'] }),
  };
}
