import { useQuery } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { ask, refusal } from '@/api/client';

/** The demo workshop beside this one: another address, so that nothing of it mixes with own jobs. */
export function useDemo() {
  const query = useQuery({
    queryKey: ['demo'],
    queryFn: () => ask('get', '/api/demo'),
    staleTime: Infinity,
  });
  const busy = ref(false);
  const wrong = ref('');
  const at = (port: number) => `${location.protocol}//${location.hostname}:${port}/`;
  async function open() {
    busy.value = true;
    try {
      const told = await ask('post', '/api/demo');
      if (told.port != null) location.assign(at(told.port));
    } catch (error) {
      wrong.value = refusal(error).message;
      busy.value = false;
    }
  }
  return {
    offered: computed(() => query.data.value?.offered ?? false),
    home: computed(() => (query.data.value?.home != null ? at(query.data.value.home) : '')),
    busy,
    wrong,
    open,
  };
}
