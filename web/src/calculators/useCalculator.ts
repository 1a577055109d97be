import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed, reactive, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ask, type Refusal } from '@/api/client';
import type { Worked } from '@/api/types';
import { useDelayed } from '@/domain/useDelayed';

/** One calculator at its address: what is typed is in the address, so that it can be passed on. */
export function useCalculator() {
  const route = useRoute();
  const router = useRouter();
  const all = useQuery({
    queryKey: ['calculators'],
    queryFn: () => ask('get', '/api/calculators'),
    staleTime: Infinity,
  });
  const id = computed(() => (typeof route.params.id === 'string' ? route.params.id : ''));
  const one = computed(() => all.data.value?.find((calculator) => calculator.id === id.value));
  const typed = reactive<Record<string, string>>({});

  watch(
    one,
    (now) => {
      for (const name of Object.keys(typed)) delete typed[name];
      for (const field of now?.fields ?? []) {
        const given = route.query[field.name];
        typed[field.name] = typeof given === 'string' ? given : field.example;
      }
    },
    { immediate: true },
  );

  const asked = useDelayed(() => ({ id: id.value, typed: { ...typed } }));
  watch(asked, (now) => {
    if (now.id === id.value) void router.replace({ query: now.typed });
  });
  const worked = useQuery<Worked, Refusal>({
    queryKey: computed(() => ['worked', asked.value]),
    queryFn: () =>
      ask('post', '/api/calculators/{id}', {
        params: { path: { id: asked.value.id } },
        body: asked.value.typed,
      }),
    enabled: computed(() => asked.value.id !== '' && Object.keys(asked.value.typed).length > 0),
    placeholderData: keepPreviousData,
    retry: false,
  });
  /** What was typed cannot be worked out; the last good answer is not shown as if it were for it. */
  const wrong = computed(() => worked.error.value);
  const answer = computed(() => (wrong.value ? undefined : worked.data.value));
  return { all, id, one, typed, wrong, answer };
}
