import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed, type Ref } from 'vue';
import { ask, type Refusal } from '@/api/client';
import type { SetUpPreview, SetUpRequest } from '@/api/types';
import { useDelayed } from '@/domain/useDelayed';

/** What a test set up like this would be judged by, and whether its bottles can carry that. */
export function usePreview(job: Ref<string>, form: () => SetUpRequest) {
  const asked = useDelayed(form);
  const query = useQuery<SetUpPreview, Refusal>({
    queryKey: computed(() => ['set-up', job.value, asked.value]),
    queryFn: () =>
      ask('post', '/api/jobs/{job}/return-tests/preview', {
        params: { path: { job: job.value } },
        body: asked.value,
      }),
    placeholderData: keepPreviousData,
    retry: false,
  });
  return computed(() => (query.error.value ? undefined : query.data.value));
}
