import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import { ask } from '@/api/client';
import type { LineKind } from '@/api/types';
import { useDelayed } from '@/domain/useDelayed';

const PER_PAGE = 30;

/** The search of the library as one types. */
export function useLibrary() {
  const words = ref('');
  const kind = ref<LineKind | ''>('');
  const page = ref(0);
  const asked = useDelayed(() => ({ words: words.value.trim(), kind: kind.value }), 120);
  watch(asked, () => (page.value = 0));
  const query = useQuery({
    queryKey: computed(() => ['library', asked.value, page.value]),
    queryFn: () => {
      const { words: q, kind } = asked.value;
      const query = { q, kind: kind || undefined, page: page.value, per_page: PER_PAGE };
      return ask('get', '/api/library', { params: { query } });
    },
    placeholderData: keepPreviousData,
  });
  const pages = computed(() => Math.ceil((query.data.value?.total ?? 0) / PER_PAGE));
  /** What is shown was found for what is typed: not for the words of a moment ago. */
  const settled = computed(
    () =>
      asked.value.words === words.value.trim() && !query.isFetching.value && !query.isPlaceholderData.value,
  );
  return { words, kind, page, pages, query, settled };
}
