import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref, watch, type Ref } from 'vue';
import { ask } from '@/api/client';

/** The part of the shelf that is looked at: a family, of the whole stock or of one job. */
export function useShelf(job: Ref<string | null>) {
  const cache = useQueryClient();
  const families = useQuery({
    queryKey: computed(() => ['shelf-families', job.value]),
    queryFn: () => ask('get', '/api/shelf/families', { params: { query: { job: job.value } } }),
  });
  const at = ref(0);
  const page = ref(1);
  const family = computed(() => families.data.value?.[at.value] ?? families.data.value?.[0]);
  watch([family, job], () => (page.value = 1));
  const shelf = useQuery({
    queryKey: computed(() => ['shelf', family.value?.kind, family.value?.family, job.value, page.value]),
    queryFn: () => {
      const { kind, family: name } = family.value!;
      const query = { kind, family: name, page: page.value, job: job.value };
      return ask('get', '/api/shelf', { params: { query } });
    },
    enabled: computed(() => !!family.value),
    placeholderData: keepPreviousData,
  });
  const refresh = () => cache.invalidateQueries({ queryKey: ['shelf'] });
  return { families, at, page, family, shelf, refresh };
}
