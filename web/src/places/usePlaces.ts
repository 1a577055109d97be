import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed, type Ref } from 'vue';
import { ask } from '@/api/client';
import type { ShelfFeature } from '@/api/types';
import { useJob } from '@/job/useJob';

export interface PlacesAsked {
  feature: ShelfFeature | null;
  wants: { cylinder: number; percent: string }[];
  static_flow: string;
  dead_time: string;
  idle: string;
  full: string;
  limit: string;
  two_stroke: boolean;
}

/** Where injectors go and what the set means, asked anew whenever the job or the question changed. */
export function usePlaces(asked: Ref<PlacesAsked>) {
  const job = useJob();
  const query = useQuery({
    queryKey: computed(() => ['places', job.id.value, job.query.dataUpdatedAt.value, asked.value]),
    queryFn: () =>
      ask('post', '/api/jobs/{job}/places', { params: { path: { job: job.id.value } }, body: asked.value }),
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 0,
  });
  return { query, places: computed(() => query.data.value) };
}
